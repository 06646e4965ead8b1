import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { zbarimg } from './zbarimg';

/** What Debian's readers of PDF say of a file: poppler, qpdf, MuPDF and zbar, which have nothing of ours in them. */
export type ToldOfPdf = {
  pages: number;
  /** Boxes of a page by name, in millimetres: left, bottom, right, top. */
  boxes: (page: number) => Record<string, number[]>;
  fonts: { name: string; emb: string; sub: string; uni: string }[];
  text: string;
  /** Complaints of `qpdf --check`; empty of a sound file. */
  faults: string;
  /** Texts of the codes on a page, painted at so many dots an inch. */
  codes: (page: number, dpi?: number) => string[];
  /** Its objects as MuPDF shows them. */
  objects: string;
  /** What a page says in its operators, decompressed. */
  content: (page: number) => string;
};

function run(program: string, args: string[]): string {
  const { stdout, stderr, error } = spawnSync(program, args, { encoding: 'utf8', maxBuffer: 1e9 });
  if (error) throw error;
  return stdout || stderr;
}

/** What `qpdf --check` complains of (its manual: 0 without errors and warnings). */
function checked(file: string): string {
  const { status, stdout, stderr } = spawnSync('qpdf', ['--check', file], { encoding: 'utf8' });
  return status === 0 ? '' : `${stdout}${stderr}`;
}

/** Asks them all, in a folder of its own that is removed afterwards. */
export function withPdf<T>(bytes: Buffer, look: (told: ToldOfPdf) => T): T {
  const folder = mkdtempSync(path.join(tmpdir(), 'heathland-pdf-'));
  const file = path.join(folder, 'made.pdf');
  writeFileSync(file, bytes);
  try {
    return look({
      pages: Number(/Pages:\s+(\d+)/.exec(run('pdfinfo', [file]))![1]),
      boxes: (page) =>
        Object.fromEntries(
          [...run('pdfinfo', ['-box', '-f', `${page}`, '-l', `${page}`, file]).matchAll(/(\w+Box):\s+([-\d. ]+)/g)].map(
            ([, name, sides]) => [
              name!,
              sides!
                .trim()
                .split(/\s+/)
                .map((each) => (Number(each) / 72) * 25.4),
            ],
          ),
        ),
      fonts: run('pdffonts', [file])
        .split('\n')
        .slice(2)
        .filter(Boolean)
        .map((line) => {
          const [name] = line.split(/\s+/);
          const [emb, sub, uni] = line.trim().split(/\s+/).slice(-5);
          return { name: name!, emb: emb!, sub: sub!, uni: uni! };
        }),
      text: run('pdftotext', ['-enc', 'UTF-8', file, '-']),
      faults: checked(file),
      objects: run('mutool', ['show', file, 'grep']),
      codes: (page, dpi = 300) => {
        const stem = path.join(folder, `page-${page}-${dpi}`);
        run('pdftoppm', ['-png', '-singlefile', '-r', `${dpi}`, '-f', `${page}`, '-l', `${page}`, file, stem]);
        return zbarimg(`${stem}.png`);
      },
      content: (page) => {
        run('mutool', ['clean', '-d', file, path.join(folder, 'open.pdf'), `${page}`]);
        const shown = run('mutool', ['show', '-b', path.join(folder, 'open.pdf'), 'pages/1/Contents']);
        return shown;
      },
    });
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
