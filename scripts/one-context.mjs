import vm from 'node:vm';
import { TestEnvironment } from 'jest-environment-node';

/**
 * Tests run in the one context of their process. Jest gives each file a context of its own, in which every mention of Math or
 * Float64Array goes by way of an interceptor: code that does nothing but numbers takes three times as long there. Modules are
 * still each file's own, made by a function that is compiled once; what a file adds to the globals, or sets anew, goes with it.
 */
const shared = new WeakSet();
const compile = vm.compileFunction;
/** By file: what it was compiled from, and the function that makes a module of it. */
const compiled = new Map();
vm.compileFunction = (code, parameters, options) => {
  if (!shared.has(options?.parsingContext)) return compile(code, parameters, options);
  const { parsingContext: _, ...rest } = options;
  let kept = compiled.get(rest.filename);
  const names = String(parameters);
  if (kept?.code !== code || kept.names !== names) {
    kept = { code, names, make: compile(code, parameters, rest) };
    compiled.set(rest.filename, kept);
  }
  return kept.make;
};

export default class OneContext extends TestEnvironment {
  constructor(config, context) {
    super(config, context);
    shared.add(this.context);
    this.global = globalThis;
    this.before = globalsNow();
    const { projectConfig } = config;
    this.fakeTimersModern = new this.fakeTimersModern.constructor({
      config: projectConfig,
      global: globalThis,
    });
    this.moduleMocker = new this.moduleMocker.constructor(globalThis);
  }

  async teardown() {
    await super.teardown();
    for (const [key, now] of globalsNow()) {
      const was = this.before.get(key);
      if (!now.configurable || (was && was.value === now.value && was.get === now.get)) continue;
      if (was) Reflect.defineProperty(globalThis, key, was);
      else Reflect.deleteProperty(globalThis, key);
    }
  }
}

const globalsNow = () =>
  new Map(Reflect.ownKeys(globalThis).map((key) => [key, Reflect.getOwnPropertyDescriptor(globalThis, key)]));
