'use client';
import Link from 'next/link';
import type { ShownEntry } from '@/core/imports';
import { IMPORT, WARNING_WORDS } from '@/core/words';
import { keptInWords } from '@/core/record';

type Props = {
  entry: ShownEntry;
  open: boolean;
  onChoose: (change: { take?: boolean; chosen?: string[] }) => void;
};

/** One contact of the file: whether it is taken, who it is, and line by line what it would change. */
export function ImportEntry({ entry, open, onChoose }: Props) {
  const name = entry.name || IMPORT.noName;
  const chosen = entry.differences.filter((line) => line.chosen).map(({ key }) => key);
  const tick = (key: string, on: boolean) =>
    onChoose({ chosen: on ? [...chosen, key] : chosen.filter((each) => each !== key) });
  return (
    <tr className={entry.take ? '' : 'nowhere'}>
      <td className="tick">
        <input
          type="checkbox"
          checked={entry.take}
          disabled={!open}
          aria-label={IMPORT.takeOf(name)}
          onChange={(event) => onChoose({ take: event.target.checked })}
        />
      </td>
      <td>
        <strong>{name}</strong>
        <p className="small">{entry.about}</p>
        <Remarks entry={entry} />
      </td>
      <td className={`verdict ${entry.verdict}`}>
        <i aria-hidden="true">{IMPORT.mark[entry.verdict]}</i> {IMPORT.verdict[entry.verdict]}
        {entry.record && (
          <p className="small">
            <Link href={`/people/${entry.record.id}`}>{entry.record.name}</Link>
          </p>
        )}
      </td>
      <td>
        {!open ? (
          <Outcome entry={entry} />
        ) : entry.verdict === 'new' ? (
          <span className="small">{IMPORT.becomesRecord}</span>
        ) : entry.verdict === 'twice' ? (
          <span className="small">{IMPORT.twiceNote}</span>
        ) : entry.differences.length === 0 ? (
          <span className="small">{IMPORT.nothing}</span>
        ) : (
          <ul className="lines">
            {entry.differences.map((line) => (
              <li key={line.key}>
                <label>
                  <input
                    type="checkbox"
                    checked={line.chosen}
                    disabled={!entry.take}
                    onChange={(event) => tick(line.key, event.target.checked)}
                  />
                  <span>
                    {line.key === 'photo' ? (
                      IMPORT.photoComes
                    ) : line.key === 'kept' ? (
                      IMPORT.keptComes(line.would)
                    ) : (
                      <>
                        <small>{line.label}</small> <ins>{line.would}</ins>
                      </>
                    )}
                    {line.now !== null && (
                      <>
                        {' '}
                        {IMPORT.replaces} <del>{line.now}</del>
                      </>
                    )}
                  </span>
                </label>
              </li>
            ))}
          </ul>
        )}
      </td>
    </tr>
  );
}

/** What the reader had to say of this contact. */
function Remarks({ entry }: { entry: ShownEntry }) {
  const remarks = [
    ...entry.warnings.map(({ code, line }) => IMPORT.atLine(line, WARNING_WORDS[code])),
    ...(entry.kept.length > 0 ? [IMPORT.withKept(entry.kept.map((each) => keptInWords(each).name))] : []),
    ...(entry.tooLarge.length > 0 ? [IMPORT.tooLarge(entry.tooLarge)] : []),
  ];
  if (remarks.length === 0) return null;
  return (
    <ul className="remarks">
      {remarks.map((remark) => (
        <li key={remark}>{remark}</li>
      ))}
    </ul>
  );
}

/** What became of a contact once the file was taken in. */
function Outcome({ entry }: { entry: ShownEntry }) {
  if (entry.undone) return <span className="small">{IMPORT.takenBack}</span>;
  if (!entry.made) return <span className="small">{IMPORT.leftOut}</span>;
  return (
    <Link href={entry.made.cardId ? `/cards/${entry.made.cardId}` : `/people/${entry.made.recordId}`}>
      {entry.verdict === 'differs' ? IMPORT.changed : IMPORT.cameIn}
    </Link>
  );
}
