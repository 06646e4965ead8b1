import { seenElsewhere } from '@/core/profile';
import type { ShownElsewhere } from '@/core/shown';
import { answerRecipient } from '@/recipient';

/** What a page elsewhere finds that fetches a link of ours: the very answer, asked for as a prefetch, so that nobody counts it; null where it is given none. */
export async function seenOf(link: string): Promise<ShownElsewhere | null> {
  const get = async (path: string) => {
    const header = (name: string) => (name === 'sec-purpose' ? 'prefetch' : '');
    const request = { method: 'GET', path, query: new URLSearchParams(), header, address: '127.0.0.1', body: '' };
    const { status, body } = await answerRecipient(request);
    return status === 200 && (Buffer.isBuffer(body) || typeof body === 'string') ? Buffer.from(body) : null;
  };
  const html = await get(new URL(link).pathname);
  if (!html) return null;
  const seen = seenElsewhere(html.toString('utf8'));
  const drawn = URL.canParse(seen.image) ? await get(new URL(seen.image).pathname) : null;
  return { ...seen, picture: drawn && `data:image/jpeg;base64,${drawn.toString('base64')}` };
}
