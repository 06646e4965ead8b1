import type { Tx } from '../pool';

/** Words that a member keeps for messages. */
export type TemplateRow = { id: string; organisation_id: string; user_id: string; name: string; body: string };

export const templatesOf = async (tx: Tx, userId: string): Promise<TemplateRow[]> =>
  tx('message_templates').where({ user_id: userId }).orderByRaw('lower(name), id').limit(100);

/** Keeps words under a name; those of the same name give way. Answers with their id. */
export async function keepTemplate(tx: Tx, row: TemplateRow): Promise<string> {
  const [kept] = await tx('message_templates')
    .insert(row)
    .onConflict(['organisation_id', 'user_id', 'name'])
    .merge(['body'])
    .returning<{ id: string }[]>('id');
  return kept!.id;
}

export const removeTemplate = (tx: Tx, userId: string, id: string): Promise<number> =>
  tx('message_templates').where({ id, user_id: userId }).delete();
