import { actorOrRefuse, bytesOf, change, idOf, respond } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { VERSIONS } from '@/core/vcard';
import { systemClock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { contactStream } from '@/server/services/records/contact-stream';
import { exportContacts } from '@/server/services/records/export-contacts';
import { limitRate } from '@/server/services/accounts/limit-rate';

const ids = (raw: string | null): string[] => (raw ?? '').split(',').filter(Boolean).map(idOf);

/**
 * Contacts as a download: `?records=` ids or `everybody`, `?cards=` ids, `?v=` the version, `?as=` one `vcf` or a `zip` of
 * one file each. A GET, so that the browser saves it as it comes; it changes nothing but the audit trail.
 */
export const GET = (request: Request) =>
  respond(async () => {
    const actor = await actorOrRefuse();
    await limitRate('export', actor.userId, systemClock);
    return download(actor, new URL(request.url).searchParams);
  });

/** The same from a form: a choice of thousands is too long for an address. */
export const POST = (request: Request) =>
  change(request, 'export', async (actor) =>
    download(actor, new URLSearchParams((await bytesOf(request, LIMITS.formBytes)).toString('utf8'))),
  );

async function download(actor: Actor, asked: URLSearchParams): Promise<Response> {
  const records = asked.get('records') === 'everybody' ? ('everybody' as const) : ids(asked.get('records'));
  const version = VERSIONS.find((each) => each === asked.get('v')) ?? '3.0';
  const { count, contacts } = await exportContacts(
    actor,
    { records, cards: ids(asked.get('cards')), version },
    systemClock,
  );
  const zip = asked.get('as') === 'zip';
  const first = count === 1 && !zip ? (await contacts.next()).value : null;
  const name = first?.fileName ?? (zip ? 'contacts.zip' : 'contacts.vcf');
  return new Response(first ? first.text : contactStream(contacts, zip), {
    headers: {
      'Content-Type': zip ? 'application/zip' : 'text/vcard; charset=utf-8',
      'Content-Disposition': `attachment; filename="${name}"`,
      'Cache-Control': 'no-store',
      'X-Content-Type-Options': 'nosniff',
    },
  });
}
