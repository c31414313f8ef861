import { at } from "../api/base";
import { onto, Refused, type Problem } from "../api/client";

/** accepted are the files that can be brought in: a list, or a whole shop. */
export const accepted = ".csv,.tsv,.txt,.xlsx,.xls,.json,.zip";

/** takeShop puts the shop of a file in the place of the one that is there; false when the file is a list, which is mapped first. */
export async function takeShop(file: File, revision: number): Promise<boolean> {
  const whole = /\.(json|zip)$/i.exec(file.name)?.[1]?.toLowerCase();
  if (!whole) return false;
  const answer = await fetch(at(whole === "zip" ? "/api/v1/shop/zip" : "/api/v1/shop"), {
    method: "PUT",
    headers: onto(revision),
    body: file,
  });
  if (!answer.ok) throw new Refused((await answer.json().catch(() => ({}))) as Problem);
  return true;
}
