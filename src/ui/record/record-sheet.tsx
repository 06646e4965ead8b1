'use client';
import Link from 'next/link';
import { Button } from 'react-bootstrap';
import { wordingOf } from '@/core/errors';
import {
  cleanLine,
  defaultLabel,
  nationalForm,
  readDetail,
  shownValue,
  splitName,
  writtenName,
  type Detail,
  type KeptProperty,
  type PersonRecord,
} from '@/core/record';
import { EditableCell } from '@/ui/card/editable-cell';
import { AddDetail } from './add-detail';
import { NewCard } from './new-card';
import { useRecordDraft } from './use-record-draft';

type Opened = {
  id: string;
  version: number;
  body: PersonRecord;
  cards: { id: string; audience: string; shows: string[] }[];
};

const WHY: Record<KeptProperty['why'], string> = {
  'not-understood': 'no detail stands for it',
  'refused-link': 'a link that could run a program',
  'unreadable-value': 'its value could not be read',
  'unreadable-photo': 'the photo is no picture that can be read',
};

/** The record: every detail that is known, on which cards it goes out, and what came with a file and was not understood. */
export function RecordSheet({ opened, country }: { opened: Opened; country: string }) {
  const record = useRecordDraft(opened);
  const { body } = record;
  const put = (next: Detail) =>
    record.change({ ...body, details: body.details.map((detail) => (detail.id === next.id ? next : detail)) });

  function retype(detail: Detail, typed: string) {
    if (detail.kind === 'photo') return;
    const uses = 'uses' in detail ? detail.uses : [];
    const read = readDetail(detail.kind, typed, { id: detail.id, country, uses, label: detail.label });
    if (!read.ok) return read.problem;
    put({ ...read.value, preferred: detail.preferred });
  }

  return (
    <>
      <header className="head">
        <div>
          <h1>{writtenName(body.name)}</h1>
          <div className="sub">
            <span>Record: the source of every card, never published itself</span>
            <span aria-live="polite">{record.state === 'as opened' ? '' : record.state}</span>
            {record.canUndo && (
              <button type="button" className="plain" onClick={record.undo}>
                Undo
              </button>
            )}
          </div>
        </div>
        <NewCard recordId={opened.id} />
      </header>
      {record.problem && (
        <div className="banner" role="alert">
          <p>{wordingOf(record.problem)}</p>
          {record.problem.code === 'RECORD_CHANGED' ? (
            <>
              <Button variant="quiet" onClick={() => window.location.reload()}>
                Show theirs, drop mine
              </Button>
              <Button
                variant="quiet"
                onClick={() => record.problem?.code === 'RECORD_CHANGED' && record.putMineOver(record.problem.version)}
              >
                Put mine over it
              </Button>
            </>
          ) : (
            <Button variant="quiet" onClick={record.retry}>
              Try again
            </Button>
          )}
        </div>
      )}
      <section className="record">
        <div className="wide">
          <table className="rows">
            <thead>
              <tr>
                <th className="label">Detail</th>
                <th>Value</th>
                <th>Goes out on</th>
                <th>
                  <span className="visually-hidden">Remove</span>
                </th>
              </tr>
            </thead>
            <tbody>
              <tr>
                <td className="label">Name</td>
                <td>
                  <EditableCell
                    row={0}
                    column={1}
                    value={writtenName(body.name)}
                    name="Name"
                    onCommit={(typed) => {
                      const text = cleanLine(typed).text.slice(0, 200);
                      if (!text) return { code: 'NAME_MISSING' };
                      record.change({ ...body, name: splitName(text) });
                    }}
                  />
                </td>
                <td>{opened.cards.map((card) => card.audience).join(', ')}</td>
                <td />
              </tr>
              {body.details.map((detail, at) => (
                <tr key={detail.id}>
                  <td className="label">{defaultLabel(detail)}</td>
                  <td>
                    {detail.kind === 'photo' ? (
                      <img
                        className="portrait"
                        src={`/api/pictures/${detail.picture}`}
                        alt={`Photo of ${writtenName(body.name)}`}
                        width={72}
                        height={72}
                      />
                    ) : (
                      <>
                        <EditableCell
                          row={at + 1}
                          column={1}
                          value={shownValue(detail)}
                          multiline={detail.kind === 'note' || detail.kind === 'own'}
                          name={defaultLabel(detail)}
                          onCommit={(typed) => retype(detail, typed)}
                        />
                        {detail.kind === 'phone' && <span className="also">{nationalForm(detail, country)}</span>}
                        {detail.preferred && <span className="also">preferred</span>}
                      </>
                    )}
                  </td>
                  <td>
                    {opened.cards
                      .filter((card) => card.shows.includes(detail.id))
                      .map((card) => card.audience)
                      .join(', ') || <span className="stone">nowhere</span>}
                  </td>
                  <td className="acts-cell">
                    <button
                      type="button"
                      className="plain"
                      aria-label={`Remove ${defaultLabel(detail)}`}
                      title="Cards that show it keep what is published until they are published again"
                      onClick={() =>
                        record.change({ ...body, details: body.details.filter(({ id }) => id !== detail.id) })
                      }
                    >
                      Remove
                    </button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <AddDetail
          country={country}
          onAdd={(detail) =>
            record.change({
              ...body,
              details: [...body.details.filter((other) => detail.kind !== 'photo' || other.kind !== 'photo'), detail],
            })
          }
        />
        {body.kept.length > 0 && (
          <div className="kept">
            <h2 className="caps">Kept from the file, never published</h2>
            <ul>
              {body.kept.map((kept, at) => (
                <li key={at}>
                  <code>{kept.property.slice(0, 200)}</code> <span className="also">{WHY[kept.why]}</span>
                </li>
              ))}
            </ul>
          </div>
        )}
        <h2 className="caps">Cards</h2>
        <ul className="cards-of">
          {opened.cards.map((card) => (
            <li key={card.id}>
              <Link href={`/cards/${card.id}`}>{card.audience}</Link>{' '}
              <span className="also">{card.shows.length} lines go out</span>
            </li>
          ))}
        </ul>
      </section>
    </>
  );
}
