/**
 * Compiles what Jest runs. In the sandbox that Jest runs modules in, each use of a global is a search of the sandbox, which makes loops
 * over numbers many times as slow as they are: so each module holds those globals that it uses as constants of its own.
 */
import swc from '@swc/jest';

const GLOBALS = [
  'Array',
  'ArrayBuffer',
  'DataView',
  'Float32Array',
  'Float64Array',
  'Infinity',
  'Int32Array',
  'JSON',
  'Map',
  'Math',
  'NaN',
  'Number',
  'Object',
  'Set',
  'Uint16Array',
  'Uint32Array',
  'Uint8Array',
];

/** All in the first line, so that places in the code stay as they are. */
const held = (code) => {
  const used = GLOBALS.filter(
    (name) =>
      new RegExp(`\\b${name}\\b`).test(code) &&
      !new RegExp(`(?:import|const|let|class|function)[^;=(]*\\b${name}\\b`).test(code),
  );
  return used.length > 0 ? `const { ${used.join(', ')} } = globalThis; ${code}` : code;
};

export default {
  createTransformer(options) {
    const plain = swc.createTransformer(options);
    return {
      ...plain,
      process: (...args) => {
        const done = plain.process(...args);
        return { ...done, code: held(done.code) };
      },
      processAsync: async (...args) => {
        const done = await plain.processAsync(...args);
        return { ...done, code: held(done.code) };
      },
    };
  },
};
