import Link from 'next/link';
import type { Privacy } from '@/core/card';
import { PUBLIC_CHANNELS, type PrivacyMap, type PublicChannel } from '@/core/shown';
import { PRIVACY } from '@/core/words';

/** What the map is narrowed to. */
export type Asked = { privacy: Privacy | null; channel: PublicChannel | null; typed: string };

/** The address of a map that is narrowed so. */
export function addressOf({ privacy, channel, typed }: Asked, start: string, after: string | null = null): string {
  const asked = new URLSearchParams();
  if (privacy) asked.set('kind', privacy);
  if (channel) asked.set('on', channel);
  if (typed) asked.set('q', typed);
  if (after) asked.set('after', after);
  const text = asked.toString();
  return text ? `${start}?${text}` : start;
}

type Props = { counts: PrivacyMap['counts']; asked: Asked };

/** How many people by kind of detail and by form; each number narrows the list to them, and pressed again widens it. */
export function MapCounts({ counts, asked }: Props) {
  const shown = PUBLIC_CHANNELS.filter((each) => counts.some(({ on }) => on[each]));
  const cell = (privacy: Privacy, channel: PublicChannel | null, people: number) => {
    const isOn = asked.privacy === privacy && asked.channel === channel;
    const to = isOn ? { ...asked, privacy: null, channel: null } : { ...asked, privacy, channel };
    return (
      <Link
        href={addressOf(to, '/privacy')}
        scroll={false}
        className={isOn ? 'on' : ''}
        aria-current={isOn ? 'true' : undefined}
        aria-label={PRIVACY.cell(people, PRIVACY.kind[privacy], channel && PRIVACY.on[channel])}
      >
        {people}
      </Link>
    );
  };
  return (
    <div className="wide">
      <table className="map-counts">
        <thead>
          <tr>
            <th scope="col">{PRIVACY.column.kind}</th>
            <th scope="col" className="num">
              {PRIVACY.column.people}
            </th>
            {shown.map((each) => (
              <th key={each} scope="col" className="num">
                {PRIVACY.on[each]}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {counts.map(({ privacy, people, on }) => (
            <tr key={privacy}>
              <th scope="row">{PRIVACY.kind[privacy]}</th>
              <td className="num">{cell(privacy, null, people)}</td>
              {shown.map((each) => (
                <td key={each} className="num">
                  {on[each] ? cell(privacy, each, on[each]) : ''}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
