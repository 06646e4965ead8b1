'use client';
import { RECORD } from '@/core/words';
import { dayNames, isZone, readSpans, shownSpans, type DetailOf } from '@/core/record';
import { TextField } from './text-field';

type HoursDetail = DetailOf<'hours'>;

/** A weekly table: a day a row, its spans as people write them, in the office's zone. */
export function HoursFields({ hours, onChange }: { hours: HoursDetail; onChange: (hours: HoursDetail) => void }) {
  return (
    <div className="fields week">
      {dayNames('en').map((name, day) => (
        <TextField
          key={`${name} ${shownSpans(hours.days[day]!)}`}
          id={`day-${day}-${hours.id}`}
          label={name}
          value={shownSpans(hours.days[day]!)}
          placeholder={RECORD.closed}
          onKeep={(typed) => {
            const read = readSpans(typed);
            if (!read.ok) return read.problem;
            onChange({ ...hours, days: hours.days.map((spans, at) => (at === day ? read.value : spans)) });
          }}
        />
      ))}
      <TextField
        id={`zone-${hours.id}`}
        label={RECORD.zone}
        value={hours.zone}
        onKeep={(typed) => {
          if (!isZone(typed.trim())) return { code: 'TIME_ZONE_UNKNOWN' };
          onChange({ ...hours, zone: typed.trim() });
        }}
      />
    </div>
  );
}
