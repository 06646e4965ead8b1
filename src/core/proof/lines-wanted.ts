import { linesOn, type Channel, type ComposedLine, type Composition } from '@/core/card';
import { shownValue, writtenName } from '@/core/record';

export const titleOf = ({ label, detail }: ComposedLine): string => label || shownValue(detail);

/** The name and every line that is ticked for a channel, in words; kinds that are pictures are none. */
export function linesWanted(composition: Composition, channel: Channel): [title: string | null, value: string][] {
  const lines = linesOn(composition, channel).filter(({ detail }) => detail.kind !== 'photo' && detail.kind !== 'logo');
  return [
    [null, writtenName(composition.name)],
    ...lines.map((line): [string, string] => [titleOf(line), shownValue(line.detail)]),
  ];
}
