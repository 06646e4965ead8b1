import { AwsClient } from 'aws4fetch';
import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import { Refusal } from '@/core/errors';
import { isHash, piecesOf, type FileStore } from './store';

export type S3Settings = { endpoint: string; bucket: string; region: string; accessKey: string; secretKey: string };

const PATIENCE_MS = 10_000;

const decodeXml = (text: string): string =>
  text.replace(
    /&(amp|lt|gt|quot|apos);/g,
    (_, name: string) => ({ amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" })[name]!,
  );

/**
 * A store that speaks the S3 protocol (path-style addresses, signature version 4 by a library). One object a file, its key
 * as in the folder: the first two digits of the hash, then the hash.
 */
export function s3Store({ endpoint, bucket, region, accessKey, secretKey }: S3Settings): FileStore {
  const client = new AwsClient({
    accessKeyId: accessKey,
    secretAccessKey: secretKey,
    region,
    service: 's3',
    retries: 2,
  });
  const root = `${endpoint.replace(/\/+$/, '')}/${bucket}`;
  const ask = (hash: string, init: RequestInit) => askFor(`${root}/${hash.slice(0, 2)}/${hash}`, init);

  async function askFor(address: string, init: RequestInit): Promise<Response> {
    try {
      return await client.fetch(address, { ...init, signal: AbortSignal.timeout(PATIENCE_MS) });
    } catch {
      throw new Refusal({ code: 'STORE_UNAVAILABLE' });
    }
  }

  return {
    async put(...parts) {
      const sum = createHash('sha256');
      for (const piece of piecesOf(parts)) {
        sum.update(piece);
        await new Promise((resolve) => setImmediate(resolve));
      }
      const hash = sum.digest('hex');
      const bytes = parts.length === 1 ? parts[0]! : Buffer.concat(parts);
      const headers = { 'Content-Type': 'application/octet-stream', 'X-Amz-Content-Sha256': hash };
      const answer = await ask(hash, { method: 'PUT', body: new Uint8Array(bytes), headers });
      if (answer.status === 507) throw new Refusal({ code: 'STORE_FULL' });
      if (!answer.ok) throw new Refusal({ code: 'STORE_UNAVAILABLE' });
      return hash;
    },
    async get(hash) {
      if (!isHash(hash)) return null;
      const answer = await ask(hash, { method: 'GET' });
      if (answer.status === 404) return null;
      if (!answer.ok) throw new Refusal({ code: 'STORE_UNAVAILABLE' });
      const bytes = Buffer.from(await answer.arrayBuffer());
      // What lies under a hash must have it: a store that was tampered with or cut off is as if it were away.
      if (createHash('sha256').update(bytes).digest('hex') !== hash) throw new Refusal({ code: 'STORE_UNAVAILABLE' });
      return bytes;
    },
    async size(hash) {
      if (!isHash(hash)) return null;
      const answer = await ask(hash, { method: 'HEAD' });
      if (answer.status === 404) return null;
      const size = Number(answer.headers.get('content-length') ?? Number.NaN);
      if (!answer.ok || !Number.isSafeInteger(size)) throw new Refusal({ code: 'STORE_UNAVAILABLE' });
      return size;
    },
    async part(hash, first, last) {
      if (!isHash(hash)) return null;
      const answer = await ask(hash, { method: 'GET', headers: { Range: `bytes=${first}-${last}` } });
      if (answer.status === 404) return null;
      if (answer.status !== 206 || !answer.body) throw new Refusal({ code: 'STORE_UNAVAILABLE' });
      return Readable.fromWeb(answer.body as import('node:stream/web').ReadableStream);
    },
    async *olderThan(instant) {
      let next = '';
      do {
        const query = `list-type=2&max-keys=1000${next ? `&continuation-token=${encodeURIComponent(next)}` : ''}`;
        const answer = await askFor(`${root}?${query}`, { method: 'GET' });
        if (!answer.ok) throw new Refusal({ code: 'STORE_UNAVAILABLE' });
        const text = await answer.text();
        for (const [, object] of text.matchAll(/<Contents>([\s\S]*?)<\/Contents>/g)) {
          const hash = /<Key>[0-9a-f]{2}\/([0-9a-f]{64})<\/Key>/.exec(object!)?.[1];
          const put = Date.parse(/<LastModified>([^<]*)</.exec(object!)?.[1] ?? '');
          if (hash && put < instant) yield hash;
        }
        next = decodeXml(/<NextContinuationToken>([^<]*)</.exec(text)?.[1] ?? '');
      } while (next);
    },
    async forgetOlder(hash, instant) {
      if (!isHash(hash)) return false;
      const there = await ask(hash, { method: 'HEAD' });
      if (!there.ok || !(Date.parse(there.headers.get('last-modified') ?? '') < instant)) return false;
      await this.forget(hash);
      return true;
    },
    async forget(hash) {
      if (!isHash(hash)) return;
      const answer = await ask(hash, { method: 'DELETE' });
      if (!answer.ok && answer.status !== 404) throw new Refusal({ code: 'STORE_UNAVAILABLE' });
    },
  };
}
