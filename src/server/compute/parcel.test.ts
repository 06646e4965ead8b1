import { existsSync, readFileSync, statSync } from 'node:fs';
import { forgetParcels, packed, unpacked } from './parcel';

const LARGE = Buffer.alloc(300_000, 'ropes');
const SMALL = Buffer.from('a knot');

test('large bytes go by a file that only this user reads, and come back as they were; what is forgotten is gone', async () => {
  const given = { bytes: LARGE, small: SMALL, country: 'GB', nested: { bytes: LARGE } };
  const { input, forget } = await packed(given);
  const { byFile } = (input as { bytes: { byFile: string } }).bytes;
  expect([statSync(byFile).mode & 0o777, readFileSync(byFile).equals(LARGE)]).toEqual([0o600, true]);
  expect((input as typeof given).small).toBe(SMALL);
  expect(unpacked(input)).toEqual(given);
  await forget();
  expect(existsSync(byFile)).toBe(false);
  await forget();
  const second = await packed({ bytes: LARGE });
  const again = (second.input as { bytes: { byFile: string } }).bytes.byFile;
  forgetParcels();
  expect(existsSync(again)).toBe(false);
  // The next one makes a folder of its own.
  const third = await packed({ bytes: LARGE });
  expect(unpacked(third.input)).toEqual({ bytes: LARGE });
  forgetParcels();
});
