// What draws the picture stays, everything else goes: a place stands in EXIF, XMP, IPTC, comments, or behind the end.
// The server does the same (apps/plants/pictures.py) and takes no other file. Source: ITU-T T.81, annex B.

const SOI = [0xff, 0xd8];
const EOI = 0xd9;
const SOS = 0xda;
const JFIF = "JFIF\0";
const ADOBE = "Adobe";
const JFIF_BODY = 14; // without its thumbnail

/** A JPEG, as browsers make one, without anything that does not draw it. Throws for a file that breaks its format. */
export function barePicture(data: Uint8Array): Uint8Array<ArrayBuffer> {
  if (data[0] !== SOI[0] || data[1] !== SOI[1]) throw new Error("The picture is no JPEG.");
  const kept: Uint8Array[] = [Uint8Array.from(SOI)];
  let at = 2;
  for (;;) {
    if (data[at] !== 0xff) throw new Error("The picture is broken.");
    while (data[at] === 0xff) at += 1;
    const marker = data[at] as number;
    at += 1;
    if (marker === EOI) return joined([...kept, Uint8Array.of(0xff, EOI)]);
    const length = ((data[at] as number) << 8) | (data[at + 1] as number);
    const body = data.subarray(at + 2, at + length);
    if (!(length >= 2) || body.length !== length - 2) throw new Error("The picture is broken.");
    at += length;
    kept.push(segment(marker, body));
    if (marker !== SOS) continue;
    const ends = scanEnds(data, at);
    kept.push(data.subarray(at, ends));
    at = ends;
  }
}

function segment(marker: number, given: Uint8Array): Uint8Array {
  let body = given;
  const begins = (word: string) => [...word].every((letter, i) => given[i] === letter.charCodeAt(0));
  if (marker === 0xe0 && begins(JFIF)) body = joined([given.subarray(0, JFIF_BODY - 2), Uint8Array.of(0, 0)]);
  else if (marker === 0xfe || (marker >= 0xe0 && marker <= 0xef && !(marker === 0xee && begins(ADOBE))))
    return new Uint8Array();
  const length = body.length + 2;
  return joined([Uint8Array.of(0xff, marker, length >> 8, length & 0xff), body]);
}

/** Where a scan ends: at the next marker that is neither stuffed nor a restart. */
function scanEnds(data: Uint8Array, from: number): number {
  for (let at = from; ; at += 2) {
    at = data.indexOf(0xff, at);
    const next = data[at + 1];
    if (at < 0 || next === undefined) throw new Error("The picture is broken.");
    if (next !== 0 && !(next >= 0xd0 && next <= 0xd7)) return at;
  }
}

function joined(parts: Uint8Array[]): Uint8Array<ArrayBuffer> {
  const whole = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

/** SHA-256 in hexadecimal. */
export async function sha256Of(data: BufferSource): Promise<string> {
  const digest = await crypto.subtle.digest("SHA-256", data);
  return [...new Uint8Array(digest)].map((b) => b.toString(16).padStart(2, "0")).join("");
}
