/** Chips are words one turns on and off, each by itself. */
export function Chips({ label, words, on, onChange }: { label: string; words: string[]; on: string[]; onChange: (on: string[]) => void }) {
  return (
    <div role="group" aria-label={label} className="flex flex-wrap gap-x-1.5 gap-y-1">
      {words.map((w) => {
        const yes = on.includes(w);
        return (
          <button key={w} type="button" aria-pressed={yes} onClick={() => onChange(yes ? on.filter((x) => x !== w) : [...on, w])} className={`narrow border px-1.5 text-[13px] leading-[1.65] ${yes ? "border-blue bg-blue font-semibold text-sheet" : "border-line text-ink hover:border-blue hover:text-blue"}`}>
            {w}
          </button>
        );
      })}
    </div>
  );
}
