'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { PEOPLE } from '@/core/words';
import { call } from '@/ui/studio/call';
import { FileDrop } from '@/ui/studio/file-drop';
import { ProblemNote } from '@/ui/studio/problem-note';

/** A place to drop a contact file, or to choose one. One new contact opens at once, anything else goes to review. */
export function ContactFileDrop() {
  const router = useRouter();
  const [reading, setReading] = useState<string | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);

  async function read(file: File) {
    setProblem(null);
    // Beyond this the server refuses; saying so first spares the upload.
    const limitBytes = LIMITS.contactFileBytes;
    if (file.size > limitBytes) return setProblem({ code: 'FILE_TOO_LARGE', limitBytes });
    setReading(file.name);
    const answer = await call<{ imported: { cardId: string } } | { import: string }>(
      `/api/records/import?name=${encodeURIComponent(file.name)}`,
      { bytes: file },
    );
    if (!answer.ok) {
      setReading(null);
      return setProblem(answer.problem);
    }
    router.push(
      'imported' in answer.value ? `/cards/${answer.value.imported.cardId}` : `/imports/${answer.value.import}`,
    );
  }

  return (
    <FileDrop
      label={PEOPLE.contactFile}
      accept=".vcf,.vcard,.json,.txt,text/vcard,text/x-vcard,application/vcard+json"
      button={reading ? PEOPLE.reading(reading) : PEOPLE.chooseFile}
      busy={reading !== null}
      variant="quiet"
      onFile={(file) => void read(file)}
      below={<ProblemNote problem={problem} />}
    >
      <h2 className="caps">{PEOPLE.fromFile}</h2>
      <p>{PEOPLE.fromFileText}</p>
    </FileDrop>
  );
}
