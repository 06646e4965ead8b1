'use client';
import { useState } from 'react';
import { COMPANY } from '@/core/words';
import type { ShownMember } from '@/core/shown';
import { PersonPicker } from '@/ui/company/person-picker';

/** Whose record is a member's own: told, and chosen anew by name. */
export function OwnRecord({ member, onChange }: { member: ShownMember; onChange: (ownRecord: string | null) => void }) {
  const [choosing, setChoosing] = useState(false);
  if (!choosing)
    return (
      <>
        {member.ownRecordName ?? ''}{' '}
        <button type="button" className="plain" onClick={() => setChoosing(true)}>
          {member.ownRecord ? COMPANY.change : COMPANY.choose}
          <span className="visually-hidden"> {COMPANY.ownRecordOf(member.name)}</span>
        </button>
      </>
    );
  const end = (ownRecord?: string | null) => {
    setChoosing(false);
    if (ownRecord !== undefined) onChange(ownRecord);
  };
  return (
    <div className="own-record" onKeyDown={(event) => event.key === 'Escape' && end()}>
      <PersonPicker
        word={COMPANY.ownRecordOf(member.name)}
        quiet
        autoFocus
        chosen={null}
        onChoose={(person) => end(person?.id ?? null)}
      />
      <p>
        {member.ownRecord && member.role !== 'holder' && (
          <button type="button" className="plain" onClick={() => end(null)}>
            {COMPANY.noRecord}
          </button>
        )}
        <button type="button" className="plain" onClick={() => end()}>
          {COMPANY.leaveIt}
        </button>
      </p>
    </div>
  );
}
