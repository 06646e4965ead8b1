/** Six dots to take hold of. */
export const Grip = () => (
  <svg width="8" height="14" viewBox="0 0 8 14" aria-hidden="true">
    {[2, 7, 12].map((y) => [2, 6].map((x) => <circle key={`${x} ${y}`} cx={x} cy={y} r="1.2" />))}
  </svg>
);

/** A lock with its reason. */
export const LockMark = ({ label, note }: { label: string; note: string }) => (
  <span className="lock" title={note}>
    <svg width="13" height="14" viewBox="0 0 13 14" role="img" aria-label={label}>
      <rect x="1" y="6" width="11" height="7.5" rx="1" />
      <path d="M3.5 6V4a3 3 0 0 1 6 0v2" />
    </svg>
  </span>
);

const CHEVRON = { up: 'M2 9l5-5 5 5', down: 'M2 5l5 5 5-5' };

/** Opens and closes what stands below. */
export const Chevron = ({ up }: { up: boolean }) => (
  <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true">
    <path d={up ? CHEVRON.up : CHEVRON.down} />
  </svg>
);
