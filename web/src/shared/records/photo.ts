const LONGEST_PX = 2560;

/** Scale a picture to 2560 px and hash it. Throws when the file is no picture the browser can read. */
export async function takePhoto(file: File): Promise<{ blob: Blob; sha256: string }> {
  const picture = await createImageBitmap(file).catch(() => {
    throw new Error(`${file.name} is no picture this browser can read. Use JPEG, PNG or WebP.`);
  });
  const scale = Math.min(1, LONGEST_PX / Math.max(picture.width, picture.height));
  const canvas = new OffscreenCanvas(Math.round(picture.width * scale), Math.round(picture.height * scale));
  canvas.getContext("2d")?.drawImage(picture, 0, 0, canvas.width, canvas.height);
  const blob = await canvas.convertToBlob({ type: "image/jpeg", quality: 0.85 });
  const digest = await crypto.subtle.digest("SHA-256", await blob.arrayBuffer());
  return { blob, sha256: [...new Uint8Array(digest)].map((b) => b.toString(16).padStart(2, "0")).join("") };
}
