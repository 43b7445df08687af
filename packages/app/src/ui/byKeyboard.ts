/** Whether what was done last was done with the keyboard: then what has the focus is what somebody came to by keys. */
let keys = false;

if (typeof window !== 'undefined') {
  window.addEventListener('keydown', (e) => (keys = e.key === 'Tab' || keys), true);
  window.addEventListener('pointerdown', () => (keys = false), true);
}

export function cameByKeyboard(): boolean {
  return keys;
}
