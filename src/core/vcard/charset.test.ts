import { execFileSync } from 'node:child_process';
import { decodedAs } from './charset';

test.each(['windows-1252', 'windows-1250', 'iso-8859-15', 'koi8-r', 'macintosh', 'shift_jis'])(
  'bytes of %s are the letters that Python’s codecs have for them',
  (charset) => {
    const codec = { macintosh: 'mac_roman' }[charset] ?? charset.replace('windows-', 'cp');
    const program = `
import json
told = {}
for byte in range(0x80, 0x100):
    try: told[byte] = bytes([byte]).decode('${codec}')
    except UnicodeDecodeError: pass
print(json.dumps(told))`;
    const letters = JSON.parse(execFileSync('python3', ['-c', program]).toString()) as Record<string, string>;
    expect(Object.keys(letters).length).toBeGreaterThan(60);
    for (const [byte, letter] of Object.entries(letters))
      expect([byte, decodedAs(charset, Uint8Array.of(Number(byte)))]).toEqual([byte, letter]);
  },
);
