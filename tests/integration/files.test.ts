import exifr from 'exifr';
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { deflateSync } from 'node:zlib';
import S3rver from 's3rver';
import sharp from 'sharp';
import { freePort } from '../../commands/cluster/ports';
import { folderStore, s3Store, type FileStore } from '@/server/files';
import { sanitiseSvg } from '@/server/compute/tasks/svg';
import { preparePhoto } from '@/server/services/media/pictures';
import { files } from '@/server/files';
import './place';

const scratch = mkdtempSync(path.join(tmpdir(), 'heathland-store-'));
afterAll(() => rmSync(scratch, { recursive: true, force: true }));
const refused = (code: string) => ({ problem: { code } });

async function keepsAndGives(store: FileStore) {
  const bytes = Buffer.from('curlew \u0000\u00ff at dusk');
  const hash = await store.put(bytes);
  expect(hash).toBe(createHash('sha256').update(bytes).digest('hex'));
  expect(await store.put(bytes)).toBe(hash);
  expect(await store.get(hash)).toEqual(bytes);
  expect(await store.get('0'.repeat(64))).toBeNull();
  expect(await store.get('../../etc/passwd')).toBeNull();
  await store.forget('../../etc/passwd');
  await store.forget(hash);
  await store.forget(hash);
  expect(await store.get(hash)).toBeNull();
  await store.put(bytes);
}

test('a folder keeps and gives files by their content', async () => {
  const root = path.join(scratch, 'folder');
  await keepsAndGives(folderStore(root));
  expect(readdirSync(root, { recursive: true }).filter((name) => String(name).includes('.'))).toEqual([]);
});

test('a store that speaks S3 does the same, against a server of that protocol that is not ours', async () => {
  const port = await freePort();
  const server = new S3rver({
    port,
    address: '127.0.0.1',
    silent: true,
    directory: path.join(scratch, 's3'),
    configureBuckets: [{ name: 'heath', configs: [] }],
  });
  await server.run();
  const access = { bucket: 'heath', region: 'us-east-1', accessKey: 'S3RVER', secretKey: 'S3RVER' };
  try {
    await keepsAndGives(s3Store({ endpoint: `http://127.0.0.1:${port}`, ...access }));
    const nowhere = s3Store({ endpoint: `http://127.0.0.1:${port}`, ...access, bucket: 'moor' });
    await expect(nowhere.put(Buffer.from('x'))).rejects.toMatchObject(refused('STORE_UNAVAILABLE'));
  } finally {
    await server.close();
  }
  await expect(s3Store({ endpoint: `http://127.0.0.1:${port}`, ...access }).get('1'.repeat(64))).rejects.toMatchObject(
    refused('STORE_UNAVAILABLE'),
  );
});

test('bytes that are not those of their hash are not given out', async () => {
  const lying = createServer((_request, response) => response.end('something else'));
  await new Promise<void>((resolve) => lying.listen(0, '127.0.0.1', resolve));
  const { port } = lying.address() as { port: number };
  const store = s3Store({
    endpoint: `http://127.0.0.1:${port}`,
    bucket: 'b',
    region: 'r',
    accessKey: 'a',
    secretKey: 's',
  });
  await expect(store.get('2'.repeat(64))).rejects.toMatchObject(refused('STORE_UNAVAILABLE'));
  lying.close();
});

test('a full disk is said in words and leaves nothing half written', async () => {
  const small = path.join(scratch, 'small');
  execFileSync('mkdir', ['-p', small]);
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=64k', 'tmpfs', small], { stdio: 'ignore' });
  } catch {
    return; // Only root can make a disk of 64 KB; continuous integration is root.
  }
  try {
    const store = folderStore(path.join(small, 'files'));
    await expect(store.put(Buffer.alloc(500_000, 7))).rejects.toMatchObject(refused('STORE_FULL'));
    const left = readdirSync(small, { recursive: true, withFileTypes: true }).filter((entry) => entry.isFile());
    expect(left).toEqual([]);
    expect(await store.get(await store.put(Buffer.from('small')))).toEqual(Buffer.from('small'));
  } finally {
    execFileSync('umount', [small]);
  }
});

test('place and device are gone from every size of a photo, told by a reader that did not remove them', async () => {
  const photo = await sharp({ create: { width: 900, height: 700, channels: 3, background: '#7a5' } })
    .withExif({
      IFD0: { Make: 'Heath', Model: 'Camera 1', Artist: 'Odile Brandreth' },
      IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '54/1 12/1 0/1', GPSLongitudeRef: 'W', GPSLongitude: '1/1 44/1 0/1' },
    })
    .jpeg()
    .toBuffer();
  expect(await exifr.gps(photo)).toMatchObject({ latitude: 54.2 });
  const made = await preparePhoto(photo, 'files');
  for (const hash of [made.hash, made.page_hash, made.file_hash]) {
    const bytes = (await files().get(hash))!;
    expect(await exifr.parse(bytes, { tiff: true, gps: true, xmp: true, iptc: true, icc: false })).toBeUndefined();
    expect(bytes.toString('latin1')).not.toMatch(/Odile|Camera 1|GPS/);
  }
});

/** A PNG of one colour whose header claims a size; its pixels are there, deflated to almost nothing (PNG 1.2, 11.2.2). */
function flatPng(width: number, height: number): Buffer {
  const crcTable = Array.from({ length: 256 }, (_, n) => {
    let c = n;
    for (let k = 0; k < 8; k += 1) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1;
    return c >>> 0;
  });
  const chunk = (type: string, data: Buffer) => {
    const body = Buffer.concat([Buffer.from(type), data]);
    const crc = ~body.reduce((c, byte) => crcTable[(c ^ byte) & 255]! ^ (c >>> 8), ~0) >>> 0;
    const head = Buffer.alloc(4);
    head.writeUInt32BE(data.length);
    const tail = Buffer.alloc(4);
    tail.writeUInt32BE(crc);
    return Buffer.concat([head, body, tail]);
  };
  const header = Buffer.alloc(13);
  header.writeUInt32BE(width, 0);
  header.writeUInt32BE(height, 4);
  header.set([1, 0, 0, 0, 0], 8);
  const rows = Buffer.alloc((Math.ceil(width / 8) + 1) * height);
  return Buffer.concat([
    Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]),
    chunk('IHDR', header),
    chunk('IDAT', deflateSync(rows)),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

test('pictures that would burst the memory, and files that are none, are refused in time', async () => {
  const began = Date.now();
  await expect(preparePhoto(flatPng(12_000, 9_000), 'files')).rejects.toMatchObject(refused('PICTURE_TOO_LARGE'));
  for (const [what, bytes] of Object.entries({
    'a zip bomb’s first bytes': Buffer.from('504b0304140000000800', 'hex'),
    'a compressed drawing': Buffer.from('1f8b0800000000000003', 'hex'),
    'a program': Buffer.from('7f454c4602010100', 'hex'),
    nothing: Buffer.alloc(0),
    'a page': Buffer.from('<!doctype html><script>alert(1)</script>'),
    'entities that grow': Buffer.from(
      `<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY a "${'x'.repeat(50)}"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;">]><svg xmlns="http://www.w3.org/2000/svg"><text>&b;</text></svg>`,
    ),
    'a picture cut off': (
      await sharp({ create: { width: 300, height: 300, channels: 3, background: '#123' } })
        .jpeg()
        .toBuffer()
    ).subarray(0, 400),
  }))
    await expect(preparePhoto(bytes, 'files').then(() => what)).rejects.toMatchObject(refused('PICTURE_UNREADABLE'));
  expect(Date.now() - began).toBeLessThan(5_000);
});

test('a polyglot comes out as the picture alone', async () => {
  const picture = await sharp({ create: { width: 64, height: 64, channels: 3, background: '#a31' } })
    .jpeg()
    .toBuffer();
  const polyglot = Buffer.concat([picture, Buffer.from('<script>alert(1)</script>PK\u0003\u0004%PDF-1.7')]);
  const made = await preparePhoto(polyglot, 'files');
  for (const hash of [made.hash, made.page_hash, made.file_hash]) {
    const bytes = (await files().get(hash))!;
    expect(bytes.toString('latin1')).not.toMatch(/<script|PK\u0003\u0004|%PDF/);
    expect((await sharp(bytes).metadata()).format).toBe('jpeg');
  }
});

test('a drawing loses script, events and whatever points outside, and is painted', async () => {
  const hostile =
    Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="80" height="80" onload="alert(1)">
    <script>alert(2)</script><style>@import url(https://evil.example/x.css)</style>
    <foreignObject><iframe xmlns="http://www.w3.org/1999/xhtml" src="https://evil.example"/></foreignObject>
    <image href="file:///etc/passwd" width="9" height="9"/><image xlink:href="https://evil.example/p.png" width="9" height="9"/>
    <use href="https://evil.example/s.svg#a"/><a href="javascript:alert(3)"><rect width="40" height="80" fill="#a00"/></a>
    <rect x="40" width="40" height="80" fill="#00a" style="background:url(https://evil.example/b)" onclick="alert(4)"/></svg>`);
  const clean = (await sanitiseSvg(hostile)).toString();
  expect(clean).not.toMatch(/script|onload|onclick|evil\\.example|passwd|foreignObject|javascript|@import|iframe/i);
  expect(clean).toContain('#00a');
  const { data } = await sharp((await files().get((await preparePhoto(hostile, 'files')).hash))!)
    .raw()
    .toBuffer({ resolveWithObject: true });
  expect(data.some((value) => value > 100)).toBe(true);
  await expect(preparePhoto(Buffer.from(`<svg>${' '.repeat(600_000)}</svg>`), 'files')).rejects.toMatchObject(
    refused('FILE_TOO_LARGE'),
  );
});
