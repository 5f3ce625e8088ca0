/**
 * Transpiles sources for the unit tests. Jest runs them in a context where every use of a global such as Math is looked
 * up through a slow hook, which makes arithmetic several times slower; here each module looks them up once.
 */
import swc from '@swc/jest';

const GLOBALS = [
  ...['Math', 'Number', 'Infinity', 'NaN', 'Array', 'Object', 'Map', 'Set', 'String', 'JSON'],
  ...['Float64Array', 'Float32Array', 'Int32Array', 'Uint32Array', 'Uint16Array', 'Uint8Array', 'DataView'],
];

export default {
  createTransformer(options) {
    const inner = swc.createTransformer(options);
    const process = (source, ...rest) => {
      const { code, ...made } = inner.process(source, ...rest);
      const used = GLOBALS.filter(
        (name) => new RegExp(`\\b${name}\\b`).test(code) && !isDeclared(name, code),
      );
      const once = used.length > 0 ? `const{${used.join(',')}}=globalThis;` : '';
      return { ...made, code: code.replace(/^("use strict";)?/, (strict) => strict + once) };
    };
    return { ...inner, process };
  },
};

/** Whether a module has something of its own by that name. */
function isDeclared(name, code) {
  return new RegExp(`\\b(const|let|var|class|function\\*?|import)\\s+${name}\\b`).test(code);
}
