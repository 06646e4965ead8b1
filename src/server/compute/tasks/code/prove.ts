import { symbolFor, TooLong, type CodeStyle, type Level } from '@/core/qr';
import { proveStyled, readsBack, remedyOf, type CodeReport, type Tested } from '@/core/proof/scan';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { codePrograms } from './programs';

/** The quick proof of a styled code, and where it fails and `remedy` is asked for, the change that helps. Error: CONTENT_TOO_LARGE. */
export async function proveCode({
  text,
  style,
  remedy,
}: {
  text: string;
  style: CodeStyle;
  remedy: boolean;
}): Promise<{ report: CodeReport; remedy: Tested | null }> {
  await codePrograms();
  try {
    const report = (await proveStyled(text, style))!;
    return { report, remedy: remedy && report.faults.length > 0 ? await remedyOf(report, style) : null };
  } catch (error) {
    if (!(error instanceof TooLong)) throw error;
    throw new Refusal({ code: 'CONTENT_TOO_LARGE', bytes: Buffer.byteLength(text), room: LIMITS.codeBytes });
  }
}

/** Whether a code of a style that was proven reads back: painted as it goes out, read by both main readers at two scales. */
export async function readBack({
  text,
  style,
  version,
  level,
  mask,
}: {
  text: string;
  style: CodeStyle;
  version: number;
  level: Level;
  mask: number;
}): Promise<{ read: boolean }> {
  await codePrograms();
  return { read: await readsBack(text, style, symbolFor(text, { version, level, mask })) };
}
