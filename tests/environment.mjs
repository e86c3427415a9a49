import { createRequire } from "node:module";
import vm from "node:vm";

const { TestEnvironment } = createRequire(import.meta.url)("jest-environment-node");

/**
 * Each test file has a global object of its own. The usual one is watched at every look at a name, which costs a hundred times what the language's own does: a
 * module that counts days looks `Math` up at every step. This one is as plain as that of a program.
 */
export default class PlainEnvironment extends TestEnvironment {
  constructor(config, context) {
    const { createContext } = vm;
    vm.createContext = () => createContext(vm.constants.DONT_CONTEXTIFY);
    try {
      super(config, context);
    } finally {
      vm.createContext = createContext;
    }
  }
}
