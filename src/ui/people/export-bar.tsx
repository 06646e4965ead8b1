'use client';
import dynamic from 'next/dynamic';
import { useState, type FormEvent } from 'react';
import { Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { CHANGES, EXPORT, INVITE, PACK, TAGS, TOGETHER } from '@/core/words';
import { VERSIONS, type VcardVersion } from '@/core/vcard';
import { call } from '@/ui/studio/call';
import { OfficeOfChosen } from './office-of-chosen';
import { TeamOfChosen } from './team-of-chosen';
import { ProblemNote } from '@/ui/studio/problem-note';

const TagsFor = dynamic(() => import('./tags-for').then((made) => made.TagsFor));
const ChangeMany = dynamic(() => import('./change-many').then((made) => made.ChangeMany));
const InvitePeople = dynamic(() => import('./invite-people').then((made) => made.InvitePeople));
const PackFiles = dynamic(() => import('./pack-files').then((made) => made.PackFiles));
const PrintTogether = dynamic(() => import('./print-together').then((made) => made.PrintTogether));

/** So many go out without the password being typed lately. */
const FEW = 25;

/** What can be done with the people chosen in the list: their records go out as contact files, their cards into one file for print. */
export function ExportBar({
  chosen,
  of,
  teams,
  mayChange,
  offices,
  inTeam,
  onAll,
  onNone,
}: {
  chosen: string[];
  /** How many could be chosen. */
  of: number;
  /** Teams that they can be put into; null where the member may not. */
  teams: { id: string; name: string }[] | null;
  mayChange: boolean;
  /** Offices that they can belong to. */
  offices: { id: string; name: string }[];
  /** The team that the list is of. */
  inTeam: string | null;
  onAll: () => void;
  onNone: () => void;
}) {
  const [version, setVersion] = useState<VcardVersion>('3.0');
  const [problem, setProblem] = useState<Problem | null>(null);
  const [printing, setPrinting] = useState(false);
  const [inviting, setInviting] = useState(false);
  const [changing, setChanging] = useState(false);
  const [packing, setPacking] = useState(false);
  const [tagging, setTagging] = useState(false);
  /** An address book goes out after the password was typed lately; the browser then saves the file as it comes. */
  async function submit(event: FormEvent<HTMLFormElement>) {
    const form = event.currentTarget;
    const button = (event.nativeEvent as SubmitEvent).submitter as HTMLButtonElement | null;
    if (chosen.length <= FEW) return;
    event.preventDefault();
    const fresh = await call('/api/confirm');
    setProblem(fresh.ok ? null : fresh.problem);
    if (!fresh.ok) return;
    const as = form.elements.namedItem('as') as HTMLInputElement | null;
    const hidden = Object.assign(document.createElement('input'), {
      type: 'hidden',
      name: 'as',
      value: button?.value ?? as?.value ?? 'vcf',
    });
    form.append(hidden);
    form.submit();
    hidden.remove();
  }
  return (
    <div className="chosen-bar" role="region" aria-live="polite" aria-label={EXPORT.chosen(chosen.length)}>
      <strong>{EXPORT.chosen(chosen.length)}</strong>
      <button type="button" className="plain" onClick={onAll}>
        {EXPORT.chooseAll(of)}
      </button>
      <button type="button" className="plain" onClick={onNone}>
        {EXPORT.clear}
      </button>
      {teams && <TeamOfChosen chosen={chosen} teams={teams} inTeam={inTeam} />}
      {teams && offices.length > 0 && <OfficeOfChosen chosen={chosen} offices={offices} />}
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
      <form method="post" action="/api/contacts" onSubmit={submit}>
        <input type="hidden" name="records" value={chosen.join(',')} />
        <input type="hidden" name="v" value={version} />
        <button type="submit" className="btn btn-primary" name="as" value="vcf">
          {EXPORT.one}
        </button>
        <button type="submit" className="btn btn-quiet" name="as" value="zip">
          {EXPORT.zip}
        </button>
      </form>
      <button type="button" className="btn btn-quiet" onClick={() => setPrinting(true)}>
        {TOGETHER.print}
      </button>
      <button type="button" className="btn btn-quiet" onClick={() => setTagging(true)}>
        {TAGS.people.act}
      </button>
      {mayChange && (
        <button type="button" className="btn btn-quiet" onClick={() => setChanging(true)}>
          {CHANGES.act}
        </button>
      )}
      {teams && (
        <button type="button" className="btn btn-quiet" onClick={() => setInviting(true)}>
          {INVITE.act}
        </button>
      )}
      {inviting && <InvitePeople chosen={chosen} onClose={() => setInviting(false)} />}
      {changing && <ChangeMany chosen={chosen} onClose={() => setChanging(false)} />}
      <button type="button" className="btn btn-quiet" onClick={() => setPacking(true)}>
        {PACK.act}
      </button>
      {packing && <PackFiles chosen={chosen} onClose={() => setPacking(false)} />}
      {tagging && <TagsFor chosen={chosen} onClose={() => setTagging(false)} />}
      {printing && <PrintTogether chosen={chosen} onClose={() => setPrinting(false)} />}
      <ProblemNote problem={problem} />
      <span className="small">{EXPORT.note}</span>
    </div>
  );
}
