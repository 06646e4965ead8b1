'use client';
import { useEffect } from 'react';

/** Ctrl/⌘ Z takes the last edit back, with Shift it comes again; a field that is being typed in has its own. */
export function useUndoKeys(table: { undo: () => void; redo: () => void }) {
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
      const { target } = event;
      if (target instanceof HTMLInputElement && !['checkbox', 'color', 'range'].includes(target.type)) return;
      if (target instanceof HTMLTextAreaElement) return;
      event.preventDefault();
      if (event.shiftKey) table.redo();
      else table.undo();
    };
    window.addEventListener('keydown', key);
    return () => window.removeEventListener('keydown', key);
  });
}
