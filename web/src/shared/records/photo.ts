import { barePicture, sha256Of } from "./barePicture";

const LONGEST_PX = 2560;

/** Scale a picture to 2560 px, leave out of its file whatever is not the picture, and hash it. Throws when the file is no picture the browser can read. */
export async function takePhoto(file: File): Promise<{ blob: Blob; sha256: string }> {
  const picture = await createImageBitmap(file).catch(() => {
    throw new Error(`${file.name} is no picture this browser can read. Use JPEG, PNG or WebP.`);
  });
  const scale = Math.min(1, LONGEST_PX / Math.max(picture.width, picture.height));
  const canvas = new OffscreenCanvas(Math.round(picture.width * scale), Math.round(picture.height * scale));
  canvas.getContext("2d")?.drawImage(picture, 0, 0, canvas.width, canvas.height);
  const made = await canvas.convertToBlob({ type: "image/jpeg", quality: 0.85 });
  const bare = barePicture(new Uint8Array(await made.arrayBuffer()));
  return { blob: new Blob([bare], { type: made.type }), sha256: await sha256Of(bare) };
}
