'use client';
import { RECORD } from '@/core/words';
import { cleanLine, readLink, type DetailOf } from '@/core/record';
import { TextField } from './text-field';

type Address = DetailOf<'address'>;

const PARTS = ['street', 'extended', 'poBox', 'locality', 'region', 'postcode', 'country'] as const;

/** An address by its parts, and a map of the way there. */
export function AddressFields({ address, onChange }: { address: Address; onChange: (address: Address) => void }) {
  return (
    <div className="fields">
      {PARTS.map((part) => (
        <TextField
          key={part}
          id={`${part}-${address.id}`}
          label={RECORD.addressParts[part]}
          value={address[part]}
          onKeep={(typed) => onChange({ ...address, [part]: cleanLine(typed).text })}
        />
      ))}
      <TextField
        id={`map-${address.id}`}
        label={RECORD.map}
        value={address.map ?? ''}
        placeholder={RECORD.mapHint}
        onKeep={(typed) => {
          const { map: _, ...rest } = address;
          if (!typed.trim()) return onChange(rest);
          const read = readLink(typed);
          if (!read.ok) return read.problem;
          onChange({ ...address, map: read.value.url });
        }}
      />
    </div>
  );
}
