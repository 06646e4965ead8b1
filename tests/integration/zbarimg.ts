import { spawnSync } from 'node:child_process';

/** What Debian's zbarimg reads in a picture, one text a code; it stands near none of the readers that proofs ask. */
export function zbarimg(file: string): string[] {
  const { stdout } = spawnSync('zbarimg', ['--quiet', '--raw', '-Sdisable', '-Sqrcode.enable', file], {
    encoding: 'utf8',
  });
  // Each is ended by a line break of the program's own.
  return stdout === '' ? [] : stdout.replace(/\n$/, '').split('\n');
}
