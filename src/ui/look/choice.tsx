'use client';

/** One of a few, as words beside each other. */
export function Choice<T extends string>({
  of,
  among,
  words,
  value,
  onChoose,
  disabled = false,
}: {
  of: string;
  among: readonly T[];
  words: Record<T, string>;
  value: T;
  onChoose: (value: T) => void;
  disabled?: boolean;
}) {
  return (
    <div className="choice" role="group" aria-label={of}>
      <span className="of">{of}</span>
      {among.map((each) => (
        <button
          key={each}
          type="button"
          aria-pressed={each === value}
          disabled={disabled}
          onClick={() => onChoose(each)}
        >
          {words[each]}
        </button>
      ))}
    </div>
  );
}
