import { describe, expect, it } from "vitest";
import { barePicture } from "./barePicture";

// SOI, JFIF without a thumbnail, a quantisation table, a scan with a stuffed byte and a restart, EOI
const jfif = [0xff, 0xe0, 0, 16, 0x4a, 0x46, 0x49, 0x46, 0, 1, 1, 0, 0, 1, 0, 1, 0, 0];
const table = [0xff, 0xdb, 0, 4, 1, 2];
const scan = [0xff, 0xda, 0, 4, 0, 0, 7, 0xff, 0, 8, 0xff, 0xd3, 9];
const bare = Uint8Array.from([0xff, 0xd8, ...jfif, ...table, ...scan, 0xff, 0xd9]);
const text = [...new TextEncoder().encode("GPSLatitude")];
const segment = (marker: number) => [0xff, marker, 0, text.length + 2, ...text];

describe("a picture without what is not the picture", () => {
  it("is the same bytes where nothing else was in it", () => expect(barePicture(bare)).toEqual(bare));

  it.each([0xe1, 0xe2, 0xed, 0xef, 0xfe])("loses the segment %i, wherever it stands", (marker) => {
    const between = [0xff, 0xd8, ...segment(marker), ...jfif, ...segment(marker), ...table, ...scan];
    expect(barePicture(Uint8Array.from([...between, ...segment(marker), 0xff, 0xd9]))).toEqual(bare);
  });

  it("loses what stands behind its end, fill bytes, and a thumbnail", () => {
    expect(barePicture(Uint8Array.from([...bare, ...text]))).toEqual(bare);
    expect(barePicture(Uint8Array.from([0xff, 0xd8, 0xff, ...bare.subarray(2)]))).toEqual(bare);
    const thumbnail = [0xff, 0xe0, 0, 19, ...jfif.slice(4, -2), 1, 1, 9, 9, 9];
    expect(barePicture(Uint8Array.from([0xff, 0xd8, ...thumbnail, ...bare.subarray(20)]))).toEqual(bare);
  });

  it.each([[[]], [[0x89, 0x50]], [[...bare.subarray(0, -2)]], [[0xff, 0xd8, 0xff, 0xe1, 0xff, 0xff]]])(
    "is refused where it breaks its format: %j",
    (data) => expect(() => barePicture(Uint8Array.from(data))).toThrow(/picture/),
  );
});
