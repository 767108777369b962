import { defineConfig } from 'vite';

/** The server for production: flat chunks, so that workers lie beside the entry that starts them. */
export default defineConfig({
  build: {
    ssr: true,
    target: 'node20',
    outDir: 'dist',
    rollupOptions: {
      input: {
        main: 'src/main.ts',
        inspect: 'src/workers/inspect.ts',
        build: 'src/workers/build.ts',
        compose: 'src/workers/compose.ts',
        findings: 'src/workers/findings.ts',
        shards: 'src/workers/shards.ts',
        pictures: 'src/workers/pictures.ts',
        models: 'src/workers/models.ts',
      },
      output: { entryFileNames: '[name].js', chunkFileNames: '[name]-[hash].js' },
    },
  },
  ssr: { noExternal: [/^@yesca\//] },
});
