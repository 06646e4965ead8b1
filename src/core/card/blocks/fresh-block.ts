import type { BlockKind } from './block-kinds';
import type { Block } from './blocks';

/** A new block of a kind. `freshId` gives ids that the card does not have yet. */
export function freshBlock(kind: BlockKind, freshId: () => string): Block {
  const common = { id: freshId(), on: true, before: false, title: '' };
  if (kind === 'about') return { ...common, kind, text: '' };
  if (kind === 'hours' || kind === 'offices') return { ...common, kind };
  if (kind === 'reply form') return { ...common, kind, fields: [], question: '' };
  if (kind === 'video') return { ...common, kind, videos: [] };
  if (kind !== 'action bar') return { ...common, kind, items: [] };
  const button = (act: 'save' | 'call' | 'mail') => ({ id: freshId(), act, line: null, subject: '', text: '' });
  return { ...common, kind, buttons: [button('save'), button('call'), button('mail')] };
}
