import { DESIGNER, ENTRY } from '@/core/words';

type Props = { token: string; offer: { name: string; placement: string; ends: string } };

/** What a designer is offered by a link: whose card it is, what lies in the package, until when. */
export function PackageOffer({ token, offer: { name, placement, ends } }: Props) {
  return (
    <main className="entry">
      <p className="word">{ENTRY.product}</p>
      <h1>{DESIGNER.title}</h1>
      <p className="whose">
        {name} · {placement}
      </p>
      <p>{DESIGNER.holds}</p>
      <ul className="small">
        {DESIGNER.files.map(([file, what]) => (
          <li key={file}>
            <span className="mono">{file}</span> {what}
          </li>
        ))}
      </ul>
      <a className="btn btn-primary" href={`/api/package/${token}`} download>
        {DESIGNER.fetch}
      </a>
      <p className="aside">{DESIGNER.until(ends.slice(0, 10))}</p>
    </main>
  );
}
