import { createHash, createHmac } from 'node:crypto';
import { lastingFrom } from '@/core/address';
import { settings } from '@/server/env';

/** The secrets of a reply's links, made of its id: whoever sends the same again gets the same. One stands on the page, the other in the mail. */
export function tokensOf(reply: string): { page: string; mail: string } {
  const of = (where: string) =>
    lastingFrom(createHmac('sha256', settings().SESSION_SECRET).update(`reply ${where} ${reply}`).digest());
  return { page: of('page'), mail: of('mail') };
}

export const hashOfToken = (token: string): Buffer => createHash('sha256').update(token).digest();
