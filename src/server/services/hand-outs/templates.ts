import { randomUUID } from 'node:crypto';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { cleanLine, cleanText } from '@/core/record';
import { keepTemplate, removeTemplate, templatesOf } from '@/server/db/hand-outs/templates';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';

export type Template = { id: string; name: string; body: string };

/** The words that the member keeps for messages, by name. Error: NOT_ALLOWED. */
export async function listTemplates(actor: Actor): Promise<{ templates: Template[] }> {
  authorise(actor, 'hand-out.make');
  const rows = await inTenant(actor, (tx) => templatesOf(tx, actor.userId));
  return { templates: rows.map(({ id, name, body }) => ({ id, name, body })) };
}

/** Keeps words under a name; those of the same name give way. Errors: NOT_ALLOWED, INPUT, TEMPLATES_FULL. */
export async function saveTemplate(actor: Actor, typed: Omit<Template, 'id'>): Promise<{ id: string }> {
  authorise(actor, 'hand-out.make');
  const name = cleanLine(typed.name).text.slice(0, LIMITS.placement);
  const body = cleanText(typed.body).text.slice(0, LIMITS.text);
  if (!name) throw new Refusal({ code: 'INPUT', field: 'name' });
  if (!body.trim()) throw new Refusal({ code: 'INPUT', field: 'body' });
  return inTenant(actor, async (tx) => {
    const known = await templatesOf(tx, actor.userId);
    if (known.length >= LIMITS.templates && !known.some((each) => each.name === name))
      throw new Refusal({ code: 'TEMPLATES_FULL', limit: LIMITS.templates });
    const row = { id: randomUUID(), organisation_id: actor.organisationId, user_id: actor.userId, name, body };
    return { id: await keepTemplate(tx, row) };
  });
}

/** Removes words that the member keeps. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function dropTemplate(actor: Actor, id: string): Promise<void> {
  authorise(actor, 'hand-out.make');
  const removed = await inTenant(actor, (tx) => removeTemplate(tx, actor.userId, id));
  if (removed === 0) throw new Refusal({ code: 'NOT_FOUND' });
}
