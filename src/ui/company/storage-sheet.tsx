import { STORAGE } from '@/core/words';

type Kept = { pictures: number; films: number; imports: number; artworks: number; used: number; limit: number };

const sized = (bytes: number): string =>
  bytes >= 1e9
    ? `${(bytes / 1e9).toFixed(1)} GB`
    : bytes >= 1e6
      ? `${(bytes / 1e6).toFixed(1)} MB`
      : `${Math.ceil(bytes / 1e3)} KB`;

/** What an organisation's files take of what they may. */
export function StorageSheet({ storage }: { storage: Kept }) {
  return (
    <section className="company">
      <p className="finding">{STORAGE.finding(sized(storage.used), sized(storage.limit))}</p>
      <meter
        className="storage"
        min={0}
        max={storage.limit}
        high={storage.limit * 0.8}
        value={storage.used}
        aria-label={STORAGE.meter}
      />
      <div className="wide">
        <table className="rows">
          <thead>
            <tr>
              <th>{STORAGE.column.what}</th>
              <th className="num">{STORAGE.column.size}</th>
            </tr>
          </thead>
          <tbody>
            {(['pictures', 'films', 'imports', 'artworks'] as const).map((kind) => (
              <tr key={kind}>
                <td>{STORAGE.what[kind]}</td>
                <td className="num">{sized(storage[kind])}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="small">{STORAGE.note}</p>
    </section>
  );
}
