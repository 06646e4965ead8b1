import { z } from 'zod';
import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { Refusal } from '@/core/errors';
import { STYLE_BOUNDS } from '@/core/qr';
import { systemClock } from '@/server/clock';
import { codeAsFile, CODE_WIDTH_MM, openCode, wordsOf } from '@/server/services/hand-outs/codes';
import { backdropFile } from '@/server/services/pieces/backdrop';
import { passFile } from '@/server/services/pieces/pass';
import { pieceFile, pieceSide } from '@/server/services/pieces/print';
import { signatureFile } from '@/server/services/hand-outs/signature';
import { tagBytes } from '@/server/services/hand-outs/tags';

const headers = (type: string, fileName: string, download: boolean) => ({
  'Content-Type': type,
  'Cache-Control': 'private, no-cache',
  'X-Content-Type-Options': 'nosniff',
  'Content-Disposition': `${download ? 'attachment' : 'inline'}; filename="${fileName}"`,
});

/** Sizes in millimetres and dots an inch; the name of a spot colour is one that print shops have. */
const Asked = z.object({
  mm: z.coerce.number().min(3).max(2_000).default(CODE_WIDTH_MM),
  dpi: z.coerce.number().min(36).max(2_400).default(300),
  spot: z
    .string()
    .regex(/^[\w .-]{1,60}$/)
    .optional(),
});

/**
 * The code of a hand-out as `code.svg`, `code.pdf`, `code.png` or `code.jpg` (`?mm=`, `?dpi=`, `?spot=`; `?download` saves it), the bytes of a tag as
 * `tag.ndef`, a signature as `signature.html`, `signature.txt` or `signature.eml` (`signature-reply` for answers), a printed piece as `print.pdf` or a side of it as `front.svg`, `back.png` and the like, a backdrop as `backdrop.png` or, where that is smaller, as the JPEG of `backdrop.file`, a pass as `card.pkpass`, `facts` about a code, and `words?text=` as outlines.
 */
export const GET = (request: Request, { params }: { params: Promise<{ handOut: string; file: string }> }) =>
  respond(async () => {
    const actor = await actorOrRefuse();
    const { handOut, file } = await params;
    const id = idOf(handOut);
    const asked = new URL(request.url).searchParams;
    if (file === 'facts') return openCode(actor, id, systemClock);
    if (file === 'words')
      return { outlines: await wordsOf(actor, (asked.get('text') ?? '').slice(0, STYLE_BOUNDS.words)) };
    if (file === 'tag.ndef') {
      const { bytes, fileName } = await tagBytes(actor, id);
      return new Response(new Uint8Array(bytes), {
        headers: headers('application/octet-stream', `${fileName}.ndef`, true),
      });
    }
    const [, reply, form] = /^signature(-reply)?\.(html|txt|eml)$/.exec(file) ?? [];
    if (form) {
      const variant = reply ? 'reply' : 'message';
      const made = await signatureFile(actor, id, { form: form as 'eml', variant }, systemClock);
      return new Response(new Uint8Array(made.bytes), { headers: headers(made.type, made.fileName, true) });
    }
    if (file === 'print.pdf') {
      const made = await pieceFile(actor, id, systemClock);
      return new Response(new Uint8Array(made.bytes), { headers: headers(made.type, made.fileName, true) });
    }
    const [, side, drawn] = /^(front|back)\.(svg|png)$/.exec(file) ?? [];
    if (side && drawn) {
      const made = await pieceSide(actor, id, { side: side as 'front', format: drawn as 'svg' }, systemClock);
      return new Response(new Uint8Array(made.bytes), { headers: headers(made.type, made.fileName, true) });
    }
    if (file === 'backdrop.png' || file === 'backdrop.file') {
      const made = await backdropFile(actor, id, file === 'backdrop.png' ? 'png' : 'smaller', systemClock);
      return new Response(new Uint8Array(made.bytes), { headers: headers(made.type, made.fileName, true) });
    }
    if (file === 'card.pkpass') {
      const made = await passFile(actor, id, systemClock);
      return new Response(new Uint8Array(made.bytes), { headers: headers(made.type, made.fileName, true) });
    }
    const [, format] = /^code\.(svg|png|jpg|pdf)$/.exec(file) ?? [];
    if (!format) throw new Refusal({ code: 'NOT_FOUND' });
    const read = Asked.safeParse(Object.fromEntries(asked));
    if (!read.success) throw new Refusal({ code: 'INPUT', field: String(read.error.issues[0]?.path[0]) });
    const { mm, dpi, spot = null } = read.data;
    const made = await codeAsFile(actor, id, { format: format as 'svg', widthMm: mm, dpi, spot }, systemClock);
    return new Response(new Uint8Array(made.bytes), {
      headers: headers(made.type, made.fileName, asked.has('download')),
    });
  });
