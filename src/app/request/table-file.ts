import { z } from 'zod';
import { Refusal } from '@/core/errors';

const TYPES = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
} as const;
const As = z.enum(['csv', 'xlsx']);
type TableForm = z.infer<typeof As>;

/** The form of a table that an address names. Error: NOT_FOUND. */
export function tableForm(raw: string): TableForm {
  const asked = As.safeParse(raw);
  if (!asked.success) throw new Refusal({ code: 'NOT_FOUND' });
  return asked.data;
}

/** A table as a file to be kept. */
export const tableFile = ({ bytes, fileName }: { bytes: Buffer; fileName: string }, as: TableForm): Response =>
  new Response(new Uint8Array(bytes), {
    headers: {
      'Content-Type': TYPES[as],
      'Cache-Control': 'private, no-cache',
      'X-Content-Type-Options': 'nosniff',
      'Content-Disposition': `attachment; filename="${fileName}"`,
    },
  });

/** A file that is sent as it is made; whoever turns away ends the making. What is refused is refused before the first part. */
export async function inParts(parts: AsyncGenerator<Buffer, void>, fileName: string, type: string): Promise<Response> {
  let next = await parts.next();
  const body = new ReadableStream<Uint8Array>({
    async pull(controller) {
      if (next.done) return controller.close();
      controller.enqueue(new Uint8Array(next.value));
      next = await parts.next();
    },
    cancel: () => void parts.return(),
  });
  return new Response(body, {
    headers: {
      'Content-Type': type,
      'Cache-Control': 'private, no-cache',
      'X-Content-Type-Options': 'nosniff',
      'Content-Disposition': `attachment; filename="${fileName}"`,
    },
  });
}
