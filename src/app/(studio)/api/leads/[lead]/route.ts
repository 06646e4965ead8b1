import { z } from 'zod';
import { actorOrRefuse, change, idOf, inputOf, respond } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { HAND_KINDS, LEAD_STATES } from '@/core/replies';
import { systemClock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { changeLead, nod, passLead, removeLead } from '@/server/services/replies/keep-lead';
import { followUp, noteLead, removeFollowUp, removeNote } from '@/server/services/replies/notes';
import { compareLeads, mergeLeads, undoMerge } from '@/server/services/replies/merge-leads';
import { openLead } from '@/server/services/replies/open-lead';
import { sendCardTo } from '@/server/services/replies/send-card';

const id = z.uuid();
const words = z.string().max(LIMITS.note);

/** What is done with a lead, one at a time. */
const Input = z.discriminatedUnion('act', [
  z.object({
    act: z.literal('change'),
    state: z.enum(LEAD_STATES).optional(),
    private: z.boolean().optional(),
    topics: z.array(z.string().max(LIMITS.label)).max(20).optional(),
    occasion: id.nullable().optional(),
  }),
  z.object({
    act: z.literal('note'),
    entry: id.nullable().default(null),
    kind: z.enum(HAND_KINDS),
    at: z.iso.datetime().nullable().default(null),
    place: z.string().max(LIMITS.name).default(''),
    text: words.default(''),
    private: z.boolean().default(false),
  }),
  z.object({ act: z.literal('remove note'), entry: id }),
  z.object({
    act: z.literal('follow up'),
    followUp: id.nullable().default(null),
    due: z.iso.date(),
    what: z.string().max(LIMITS.text),
    done: z.boolean().default(false),
  }),
  z.object({ act: z.literal('remove follow up'), followUp: id }),
  z.object({ act: z.literal('compare'), other: id }),
  z.object({ act: z.literal('merge'), other: id, chosen: z.array(z.string().max(60)).max(LIMITS.details) }),
  z.object({ act: z.literal('undo merge'), merge: id }),
  z.object({ act: z.literal('hand over'), to: id }),
  z.object({ act: z.literal('nod'), reply: id }),
  z.object({ act: z.literal('send card'), card: id, note: z.string().max(LIMITS.text).default('') }),
]);
type Input = z.infer<typeof Input>;

type Params = { params: Promise<{ lead: string }> };

function done(actor: Actor, lead: string, input: Input): Promise<unknown> {
  switch (input.act) {
    case 'change':
      return changeLead(actor, lead, input, systemClock);
    case 'note':
      return noteLead(actor, lead, input, systemClock);
    case 'remove note':
      return removeNote(actor, lead, input.entry, systemClock);
    case 'follow up':
      return followUp(actor, lead, input, systemClock);
    case 'remove follow up':
      return removeFollowUp(actor, lead, input.followUp, systemClock);
    case 'compare':
      return compareLeads(actor, lead, input.other).then((differences) => ({ differences }));
    case 'merge':
      return mergeLeads(actor, lead, input, systemClock);
    case 'undo merge':
      return undoMerge(actor, lead, input.merge, systemClock);
    case 'hand over':
      return passLead(actor, lead, input.to, systemClock);
    case 'nod':
      return nod(actor, lead, input.reply, systemClock);
    case 'send card':
      return sendCardTo(actor, lead, input, systemClock);
  }
}

/** A lead with all that was told and noted. */
export const GET = (_request: Request, { params }: Params) =>
  respond(async () => openLead(await actorOrRefuse(), idOf((await params).lead)));

export const POST = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) =>
    done(actor, idOf((await params).lead), await inputOf(request, Input, LIMITS.formBytes)),
  );

/** Erases a lead with all that was told and noted. */
export const DELETE = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => removeLead(actor, idOf((await params).lead), systemClock));
