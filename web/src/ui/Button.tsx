import { cva, type VariantProps } from "class-variance-authority";
import type { ComponentProps } from "react";

const look = cva("whitespace-nowrap disabled:cursor-default", {
  variants: {
    kind: {
      main: "bg-blue px-3 py-1.5 font-bold text-sheet hover:brightness-110 disabled:opacity-60",
      danger: "bg-red px-3 py-1.5 font-bold text-sheet hover:brightness-110 disabled:opacity-60",
      plain:
        "border-b-2 border-transparent px-0.5 py-1 font-semibold text-blue hover:border-blue disabled:text-quiet disabled:hover:border-transparent",
      tool: "flex h-8 min-w-8 items-center justify-center px-1 hover:bg-sheet thumb:h-11 thumb:min-w-11",
    },
  },
  defaultVariants: { kind: "plain" },
});

type Props = ComponentProps<"button"> & VariantProps<typeof look> & { label?: string };

/** Button does something: main is the one thing to do here, plain one of several, danger what takes something away, tool a picture. */
export function Button({ kind, label, className, ...rest }: Props) {
  return <button type="button" aria-label={label} {...rest} className={look({ kind, className })} />;
}
