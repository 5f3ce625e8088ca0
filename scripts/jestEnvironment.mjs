/**
 * Where the unit tests run: a context of its own for each file, as Jest makes it, but with a plain global object.
 * Jest's own goes through a proxy wherever a global such as Math is named, which makes arithmetic several times slower.
 */
import vm from 'node:vm';
import { TestEnvironment } from 'jest-environment-node';

export default class PlainEnvironment extends TestEnvironment {
  constructor(...given) {
    const { createContext } = vm;
    vm.createContext = () => createContext(vm.constants.DONT_CONTEXTIFY);
    try {
      super(...given);
    } finally {
      vm.createContext = createContext;
    }
  }
}
