/** As much of a page as what keeps its data needs: events of its window, whether it is seen, and small storage. */

const items = new Map<string, string>();

Object.assign(globalThis, {
  window: new EventTarget(),
  document: Object.assign(new EventTarget(), { visibilityState: 'visible' }),
  localStorage: {
    getItem: (key: string) => items.get(key) ?? null,
    setItem: (key: string, value: string) => void items.set(key, value),
    removeItem: (key: string) => void items.delete(key),
    clear: () => {
      items.clear();
    },
  },
});
