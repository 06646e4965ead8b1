import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { Refusal } from '@/core/errors';
import { codeAsPng, codeAsSvg, describeCode, tagBytes } from '@/server/services/cards/hand-outs';

const headers = (type: string, fileName: string, download: boolean) => ({
  'Content-Type': type,
  'Cache-Control': 'private, no-cache',
  'X-Content-Type-Options': 'nosniff',
  'Content-Disposition': `${download ? 'attachment' : 'inline'}; filename="${fileName}"`,
});

/** The code of a hand-out as `code.svg` or `code.png` (`?download` saves it), the bytes of a tag as `tag.ndef`, and `facts` about it. */
export const GET = (request: Request, { params }: { params: Promise<{ handOut: string; file: string }> }) =>
  respond(async () => {
    const actor = await actorOrRefuse();
    const { handOut, file } = await params;
    const id = idOf(handOut);
    const download = new URL(request.url).searchParams.has('download');
    if (file === 'facts') return describeCode(actor, id);
    if (file === 'code.svg') {
      const { svg, fileName } = await codeAsSvg(actor, id);
      return new Response(svg, { headers: headers('image/svg+xml', `${fileName}.svg`, download) });
    }
    if (file === 'tag.ndef') {
      const { bytes, fileName } = await tagBytes(actor, id);
      return new Response(new Uint8Array(bytes), {
        headers: headers('application/octet-stream', `${fileName}.ndef`, true),
      });
    }
    if (file !== 'code.png') throw new Refusal({ code: 'NOT_FOUND' });
    const { png, fileName } = await codeAsPng(actor, id);
    return new Response(new Uint8Array(png), { headers: headers('image/png', `${fileName}.png`, download) });
  });
