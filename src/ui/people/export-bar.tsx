'use client';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { EXPORT } from '@/core/messages';
import { VERSIONS, type VcardVersion } from '@/core/vcard';

/** What can be done with the people chosen in the list: their records go out as contact files. */
export function ExportBar({ chosen, onAll, onNone }: { chosen: string[]; onAll: () => void; onNone: () => void }) {
  const [version, setVersion] = useState<VcardVersion>('3.0');
  return (
    <div className="chosen-bar" role="region" aria-live="polite" aria-label={EXPORT.chosen(chosen.length)}>
      <strong>{EXPORT.chosen(chosen.length)}</strong>
      <button type="button" className="plain" onClick={onAll}>
        {EXPORT.chooseAll}
      </button>
      <button type="button" className="plain" onClick={onNone}>
        {EXPORT.clear}
      </button>
      <Form.Select
        size="sm"
        aria-label={EXPORT.version}
        value={version}
        onChange={(event) => setVersion(event.target.value as VcardVersion)}
      >
        {[...VERSIONS].reverse().map((each) => (
          <option key={each} value={each}>{`vCard ${each}`}</option>
        ))}
      </Form.Select>
      <form method="post" action="/api/contacts">
        <input type="hidden" name="records" value={chosen.join(',')} />
        <input type="hidden" name="v" value={version} />
        <button type="submit" className="btn btn-primary" name="as" value="vcf">
          {EXPORT.one}
        </button>
        <button type="submit" className="btn btn-quiet" name="as" value="zip">
          {EXPORT.zip}
        </button>
      </form>
      <span className="small">{EXPORT.note}</span>
    </div>
  );
}
