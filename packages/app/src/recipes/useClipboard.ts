import { useEffect } from 'react';
import { store } from '../store/store';
import { pieceActions } from '../store/pieceSlice';
import { selectedParts } from '../store/selection';
import { TYPING } from '../ui/typing';
import { copiedText, pasteText } from './copied';

/** Parts are copied, cut and pasted by the keys that do so with text, unless there is a text that is meant. */
export function useClipboard(): void {
  useEffect(() => {
    const isText = (event: Event): boolean => {
      const target = event.target instanceof HTMLElement ? event.target : document.body;
      return target.matches(TYPING) || window.getSelection()?.isCollapsed === false;
    };
    const copy = (event: ClipboardEvent): void => {
      if (isText(event)) return;
      const chosen = selectedParts(store.getState().piece);
      const text = copiedText(chosen);
      if (text === null) return;
      event.clipboardData?.setData('text/plain', text);
      event.preventDefault();
      if (event.type !== 'cut') return;
      for (const ref of chosen) store.dispatch(pieceActions.removed(ref));
    };
    const paste = (event: ClipboardEvent): void => {
      if (isText(event)) return;
      event.preventDefault();
      pasteText(event.clipboardData?.getData('text/plain') ?? '');
    };
    document.addEventListener('copy', copy);
    document.addEventListener('cut', copy);
    document.addEventListener('paste', paste);
    return () => {
      document.removeEventListener('copy', copy);
      document.removeEventListener('cut', copy);
      document.removeEventListener('paste', paste);
    };
  }, []);
}
