import vm from 'node:vm';
import { TestEnvironment } from 'jest-environment-node';

/**
 * Jest's environment for Node, with a global object that is an ordinary one. The usual one asks an interceptor at every
 * reading of Math or Map, which makes computing four times as slow.
 */
export default class extends TestEnvironment {
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
