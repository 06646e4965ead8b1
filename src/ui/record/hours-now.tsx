'use client';
import { useSyncExternalStore } from 'react';
import { RECORD } from '@/core/words';
import { dayNames, openAt, type Hours } from '@/core/record';

const EVERY_MS = 30_000;
const tick = (again: () => void) => {
  const timer = setInterval(again, EVERY_MS);
  return () => clearInterval(timer);
};
const minute = () => Math.floor(Date.now() / EVERY_MS) * EVERY_MS;

/** Whether the office is open at this moment by its own clock, and until when. Known in the browser only. */
export function HoursNow({ hours }: { hours: Hours }) {
  const now = useSyncExternalStore(tick, minute, () => null);
  if (now === null) return null;
  const { open, next } = openAt(hours, now);
  const day = next ? dayNames('en')[next.day]! : '';
  return (
    <span className="also">
      {open ? RECORD.openUntil(next!.at) : next ? RECORD.opensAt(day, next.at) : RECORD.neverOpen} {hours.zone}
    </span>
  );
}
