import Link from 'next/link';
import type { ListedLead } from '@/core/replies';
import { LEADS } from '@/core/words';
import { shortDayIn } from '@/ui/studio/instant';

/** Leads a row each, to be chosen and opened. */
export function LeadTable({
  leads,
  whose,
  zone,
  chosen,
  onChoose,
}: {
  leads: ListedLead[];
  whose: 'mine' | 'all';
  zone: string;
  chosen: ReadonlySet<string>;
  onChoose: (id: string, on: boolean) => void;
}) {
  return (
    <div className="wide">
      <table className="rows leads-table">
        <thead>
          <tr>
            <th>
              <span className="visually-hidden">{LEADS.chosen(chosen.size)}</span>
            </th>
            <th>{LEADS.head.name}</th>
            <th>{LEADS.head.state}</th>
            <th>{LEADS.head.reach}</th>
            <th>{LEADS.head.where}</th>
            {whose === 'all' && <th>{LEADS.head.owner}</th>}
            <th className="num">{LEADS.head.due}</th>
            <th className="num">{LEADS.head.last}</th>
          </tr>
        </thead>
        <tbody>
          {leads.map((lead) => (
            <tr key={lead.id} className={lead.waits ? 'waits' : undefined}>
              <td className="tick">
                <input
                  type="checkbox"
                  aria-label={LEADS.choose(lead.name)}
                  checked={chosen.has(lead.id)}
                  onChange={({ target }) => onChoose(lead.id, target.checked)}
                />
              </td>
              <td className="who">
                <Link href={`/leads/${lead.id}`}>{lead.name}</Link>
                {lead.about && <small>{lead.about}</small>}
              </td>
              <td className="state">
                <LeadMark lead={lead} />
              </td>
              <td className="reach">{lead.reach}</td>
              <td>
                {lead.where || LEADS.by[lead.by]}
                {lead.topics.length > 0 && <small>{lead.topics.join(', ')}</small>}
              </td>
              {whose === 'all' && <td>{lead.owner.name}</td>}
              <td className="num">{lead.due ? shortDayIn(zone, `${lead.due}T12:00:00Z`) : ''}</td>
              <td className="num">{shortDayIn(zone, lead.last)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** How far a lead has come, in a word with its mark. */
function LeadMark({ lead }: { lead: Pick<ListedLead, 'state' | 'private' | 'waits'> }) {
  return (
    <span className={`lead-state ${lead.state.replace(' ', '-')}`}>
      {LEADS.states[lead.state]}
      {lead.private && <small>{LEADS.private}</small>}
      {lead.waits && <small className="attention">{LEADS.waits.split('.')[0]}</small>}
    </span>
  );
}
