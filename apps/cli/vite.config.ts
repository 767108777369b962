import { defineConfig } from 'vite';

/** The command line as one plain file: it starts several times as fast as its source does. */
export default defineConfig({
  build: {
    ssr: true,
    target: 'node20',
    outDir: 'dist',
    rollupOptions: { input: { main: 'src/main.ts' }, output: { entryFileNames: '[name].js' } },
  },
  ssr: { noExternal: [/^@yesca\//] },
});
