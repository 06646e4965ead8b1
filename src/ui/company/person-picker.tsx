'use client';
import { COMPANY } from '@/core/words';
import { call } from '@/ui/studio/call';
import { Picker, type Choice } from '@/ui/studio/picker';

async function search(typed: string): Promise<Choice[]> {
  const answer = await call<{ names: Choice[] }>(`/api/people?names&q=${encodeURIComponent(typed)}`);
  return answer.ok ? answer.value.names : [];
}

/** Chooses somebody's record by typing part of the name. */
export const PersonPicker = (props: Omit<Parameters<typeof Picker>[0], 'search' | 'hint'>) => (
  <Picker {...props} hint={COMPANY.personHint} search={search} />
);
