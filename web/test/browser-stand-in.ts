/** What the stores expect of a browser, for tests that run without one. */
class Store {
  private readonly values = new Map<string, string>();
  getItem = (key: string) => this.values.get(key) ?? null;
  setItem = (key: string, value: string) => void this.values.set(key, value);
  removeItem = (key: string) => void this.values.delete(key);
  clear = () => this.values.clear();
}

Object.assign(globalThis, {
  localStorage: new Store(),
  sessionStorage: new Store(),
  window: Object.assign(new EventTarget(), { matchMedia: () => ({ matches: false }) }),
});
