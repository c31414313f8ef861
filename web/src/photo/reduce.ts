const enough = 2_500_000; // bytes: smaller files go as they are
const longest = 1600;

/**
 * reduced makes a large photo small before it is sent, where the browser can
 * open it: cameras take more pixels than anybody needs of a chisel. What cannot
 * be opened here goes as it is, and the server says what is wrong with it.
 */
export async function reduced(file: Blob): Promise<Blob> {
  if (file.size <= enough) return file;
  try {
    const picture = await createImageBitmap(file, { imageOrientation: "from-image" });
    const k = Math.min(1, longest / Math.max(picture.width, picture.height));
    const canvas = new OffscreenCanvas(Math.round(picture.width * k), Math.round(picture.height * k));
    canvas.getContext("2d")?.drawImage(picture, 0, 0, canvas.width, canvas.height);
    picture.close();
    return await canvas.convertToBlob({ type: "image/jpeg", quality: 0.9 });
  } catch {
    return file;
  }
}
