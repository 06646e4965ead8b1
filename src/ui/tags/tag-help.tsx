import { TAGS } from '@/core/words';

/** What kinds of phones do on a tap, each with where we know it from, and why a tag may not be read. */
export const TagHelp = () => (
  <>
    <details>
      <summary>{TAGS.phones}</summary>
      <div className="wide">
        <table className="rows tag-phones">
          <thead>
            <tr>
              {TAGS.phoneHead.map((head) => (
                <th key={head}>{head}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {TAGS.phoneRows.map((row) => (
              <tr key={row[0]}>
                {row.map((cell, at) => (
                  <td key={at}>{cell}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
    <details>
      <summary>{TAGS.why}</summary>
      <ul className="tag-whys">
        {TAGS.whys.map((why) => (
          <li key={why}>{why}</li>
        ))}
      </ul>
    </details>
  </>
);
