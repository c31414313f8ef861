import type { ReactNode } from "react";

/** Labelled is a small field with words before or after it. */
export const Labelled = ({
  label,
  after,
  width = "w-24",
  children,
}: {
  label?: string;
  after?: string;
  width?: string;
  children: ReactNode;
}) => (
  <label className={`flex items-baseline gap-1 ${width}`}>
    {label && <span className="shrink-0">{label}</span>}
    {children}
    {after && <span className="shrink-0">{after}</span>}
  </label>
);
