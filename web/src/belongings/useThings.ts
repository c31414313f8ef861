import {
  columnVisibilityFeature,
  createSortedRowModel,
  rowSortingFeature,
  tableFeatures,
  useTable,
  type ColumnDef,
} from "@tanstack/react-table";
import { useMemo } from "react";
import type { Item } from "../api/client";
import { columns, type Column } from "./useList";

const features = tableFeatures({ rowSortingFeature, columnVisibilityFeature, sortedRowModel: createSortedRowModel() });

/** value a thing is sorted by in a column; undefined when it has nothing there. */
function value(i: Item, id: string): string | number | undefined {
  const v = i[id as keyof Item] as string | number | boolean | string[] | undefined;
  if (typeof v === "number") return v;
  const text = typeof v === "boolean" ? (v ? "yes" : "") : Array.isArray(v) ? v.join(", ") : (v ?? "").toLowerCase();
  return text === "" ? undefined : text;
}

const defs: ColumnDef<typeof features, Item>[] = columns.map((c) => ({
  id: c.id,
  accessorFn: (i) => value(i, c.id),
  // What has nothing there comes last, whichever way round.
  sortUndefined: "last",
  sortFn: (a, b) => {
    const [x, y] = [a.getValue(c.id), b.getValue(c.id)]; // the table keeps what it worked out
    return typeof x === "number" && typeof y === "number" ? x - y : String(x).localeCompare(String(y));
  },
}));

/** useThings is the table of things: in the order of a column, by name where that is the same, with the columns that are shown. */
export function useThings(items: Item[], sort: { by: string; down: boolean }, shown: string[]): { things: Item[]; columns: Column[] } {
  const sorting = useMemo(
    () => [{ id: sort.by, desc: sort.down }, ...(sort.by === "name" ? [] : [{ id: "name", desc: false }])],
    [sort.by, sort.down],
  );
  const columnVisibility = useMemo(() => Object.fromEntries(columns.map((c) => [c.id, shown.includes(c.id)])), [shown]);
  const table = useTable({ features, columns: defs, data: items, getRowId: (i) => i.id, state: { sorting, columnVisibility } });
  const rows = table.getRowModel().rows;
  const visible = table.getVisibleLeafColumns();
  return {
    things: useMemo(() => rows.map((r) => r.original), [rows]),
    columns: useMemo(() => visible.map((v) => columns.find((c) => c.id === v.id)).filter((c) => c !== undefined), [visible]),
  };
}
