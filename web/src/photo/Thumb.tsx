import { at } from "../api/base";
/** photo is the address of a photo. */
export const photo = (name: string, size: "large" | "small") => at(`/api/v1/photos/${encodeURIComponent(name)}?size=${size}`);

/** Thumb is the small picture of a thing; nothing where the picture is missing. */
export function Thumb({ name, of, className }: { name: string; of: string; className: string }) {
  return (
    <img
      src={photo(name, "small")}
      alt={of}
      loading="lazy"
      className={`object-cover ${className}`}
      onError={(e) => (e.currentTarget.style.display = "none")}
    />
  );
}
