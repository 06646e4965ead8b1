'use client';
import { RECORD } from '@/core/words';
import { cleanLine, readName, writtenName, type Name } from '@/core/record';
import { FurtherFields } from './further-fields';
import { KindField } from './kind-field';
import { TextField } from './text-field';

const PARTS = ['prefix', 'given', 'additional', 'family', 'suffix'] as const;

/** What it is the name of; a person's by the parts of a contact file; as it is written, and as it is sorted. */
export function NameFields({ name, onChange }: { name: Name; onChange: (name: Name) => void }) {
  const put = (change: Partial<Name>) => {
    const next = { ...name, ...change };
    if (!writtenName(next)) return { code: 'NAME_MISSING' as const };
    onChange(next);
  };
  return (
    <div className="fields">
      <KindField
        id="name-kind"
        explained
        kind={name.kind}
        onKind={(kind) =>
          onChange({ ...readName(writtenName(name), kind), sortAs: name.sortAs, further: name.further })
        }
      />
      {(name.kind ? [] : PARTS).map((part) => (
        <TextField
          key={`${part} ${name[part]}`}
          id={`name-${part}`}
          label={RECORD.nameParts[part]}
          value={name[part]}
          // The written form follows its parts.
          onKeep={(typed) => put({ [part]: cleanLine(typed).text.slice(0, 200), written: '' })}
        />
      ))}
      <TextField
        key={`written ${writtenName(name)}`}
        id="name-written"
        label={RECORD.nameParts.written}
        value={writtenName(name)}
        onKeep={(typed) => put({ written: cleanLine(typed).text.slice(0, 200) })}
      />
      <FurtherFields id="name" further={name.further} onFurther={(further) => put({ further })} />
      <TextField
        id="name-sortAs"
        label={RECORD.nameParts.sortAs}
        value={name.sortAs ?? ''}
        onKeep={(typed) => put({ sortAs: cleanLine(typed).text.slice(0, 200) || undefined })}
      />
    </div>
  );
}
