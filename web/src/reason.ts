import { toast } from "sonner";

/** reason is what an error says, whatever was thrown. */
export const reason = (e: unknown): string => (e instanceof Error ? e.message : String(e));

/** sayReason shows why something did not work. */
export const sayReason = (e: unknown) => void toast.error(reason(e));
