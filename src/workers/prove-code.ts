import { initWasm } from '@resvg/resvg-wasm';
import { setModuleArgs } from '@undecaf/zbar-wasm';
import { prepareZXingModule } from 'zxing-wasm/reader';
import {
  baseOf,
  FULL_PIXELS,
  fullTrials,
  proveStyled,
  READERS,
  remedyOf,
  tryCode,
  type CodeAsked,
  type CodeTold,
} from '@/core/proof/scan';
import { symbolFor, symbolInStyle, TooLong } from '@/core/qr';

// Programs that read and paint come from our own server; their packages would fetch them from a network address.
const zbar = new URL('@undecaf/zbar-wasm/dist/zbar.wasm', import.meta.url).href;
setModuleArgs({ locateFile: () => zbar });
const loaded = Promise.all([
  initWasm(fetch(new URL('@resvg/resvg-wasm/index_bg.wasm', import.meta.url))),
  fetch(new URL('zxing-wasm/reader/zxing_reader.wasm', import.meta.url))
    .then((answer) => answer.arrayBuffer())
    .then((wasmBinary) => prepareZXingModule({ overrides: { wasmBinary }, fireImmediately: true })),
]);

/** The last that was asked for: what came before it is given up. */
let latest = 0;
const tell = (told: CodeTold) => postMessage(told);
/** Lets messages come in between two pictures. */
const pause = () => new Promise<void>((resolve) => setTimeout(resolve));

async function prove(asked: CodeAsked): Promise<void> {
  await loaded;
  const { at, text, style, fixed } = asked;
  const isLatest = () => at === latest;
  const symbol = fixed ? symbolFor(text, fixed) : symbolInStyle(text, style);
  if (asked.parts !== undefined) {
    const trials = fullTrials().filter((_, each) => each % asked.parts === asked.part);
    const progress = (done: number, of: number) => {
      if (done % 5 === 0) tell({ at, done, of });
      return isLatest();
    };
    const full = await tryCode(baseOf(symbol, style), text, trials, {
      readers: READERS,
      pixels: FULL_PIXELS,
      progress,
      pause,
    });
    if (full) tell({ at, full });
    return;
  }
  const proving = { progress: isLatest, pause };
  const report = await proveStyled(text, style, { ...proving, symbol });
  if (!report) return;
  tell({ at, report });
  if (asked.remedy && report.faults.length > 0) tell({ at, remedy: await remedyOf(report, style, proving) });
}

addEventListener('message', ({ data }: MessageEvent<CodeAsked>) => {
  latest = data.at;
  prove(data).catch((error: unknown) => {
    if (error instanceof TooLong) tell({ at: data.at, tooLong: true });
    else throw error;
  });
});
