import { X } from "lucide-react";
import type { ReactNode } from "react";

/** Sheet is the paper at the right of the stage; one heading, then rows of figures. One that can be put away has onClose. */
export function Sheet({
  title,
  address,
  sub,
  children,
  live,
  onClose,
}: {
  title: string;
  address?: string;
  sub?: ReactNode;
  children: ReactNode;
  live?: boolean;
  onClose?: () => void;
}) {
  return (
    <aside
      className="round-scroll flex w-72.5 shrink-0 scroll-pb-32 flex-col overflow-y-auto border border-line bg-sheet px-4 py-3 max-md:w-full max-md:overflow-visible"
      aria-label="Sheet"
      tabIndex={0}
    >
      <div aria-live={live ? "polite" : undefined}>
        <div className="flex items-baseline justify-between gap-2">
          <h2 className="text-head leading-tight font-bold">{title}</h2>
          <span className="flex shrink-0 items-center gap-2">
            {address && <span className="text-base font-bold text-blue">{address}</span>}
            {onClose && (
              <button
                aria-label={`Close ${title}`}
                className="-mr-2 flex h-7 w-7 items-center justify-center hover:bg-paper"
                onClick={onClose}
              >
                <X size={16} />
              </button>
            )}
          </span>
        </div>
        {sub && <p className="mt-0.5 text-small text-quiet">{sub}</p>}
      </div>
      {children}
    </aside>
  );
}

export function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mt-2.5 border-t border-line pt-2">
      <h3 className="mb-1 text-body font-bold">{title}</h3>
      {children}
    </section>
  );
}

export function Row({ label, value, strong, colour }: { label: ReactNode; value: ReactNode; strong?: boolean; colour?: string }) {
  return (
    <div className={`flex justify-between gap-3 py-px ${strong ? "font-bold" : ""}`} style={{ color: colour }}>
      <span className="min-w-0">{label}</span>
      <span className="shrink-0 text-right">{value}</span>
    </div>
  );
}

/** Acts are what can be done; they stay in sight at the foot of the sheet. */
export function Acts({ children }: { children: ReactNode }) {
  return <div className="sticky -bottom-3 mt-auto -mb-3 flex flex-wrap items-center gap-x-4 gap-y-0.5 bg-sheet pt-3 pb-3">{children}</div>;
}
