import { raw } from 'bwip-js/node';
import {
  BarcodeFormat,
  BinaryBitmap,
  DecodeHintType,
  HybridBinarizer,
  MultiFormatReader,
  RGBLuminanceSource,
} from '@zxing/library';
import { BARCODE, QR } from './codes.ts';

/** Black and white of an image, row by row, with a margin that every reader wants, and each module several pixels wide. */
function read(rows: readonly (readonly boolean[])[], format: BarcodeFormat): string {
  const scale = 4;
  const margin = 12;
  const width = ((rows[0]?.length ?? 0) + 2 * margin) * scale;
  const height = (rows.length + 2 * margin) * scale;
  const light = new Uint8ClampedArray(width * height).fill(255);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1)
      if (rows[Math.floor(y / scale) - margin]?.[Math.floor(x / scale) - margin]) light[y * width + x] = 0;
  const reader = new MultiFormatReader();
  reader.setHints(new Map([[DecodeHintType.POSSIBLE_FORMATS, [format]]]));
  const bitmap = new BinaryBitmap(new HybridBinarizer(new RGBLuminanceSource(light, width, height)));
  return reader.decode(bitmap).getText();
}

/** As the library draws them: modules of a square, or widths of bars and the spaces between. */
const modules = (options: object, text: string): Record<string, number[] & number> =>
  (
    raw({ ...options, text } as Parameters<typeof raw>[0]) as unknown as Record<string, number[] & number>[]
  )[0] ?? {};

it.each(['I-212/03', 'http://crane.works.test:8640/own/abcdefghijklmnopqrstuv', 'BW2632008U'])(
  'a QR code of %s reads back',
  (text) => {
    const { pixs = [], pixx = 0 } = modules(QR, text);
    const rows = Array.from({ length: pixs.length / pixx }, (_, y) =>
      [...pixs].slice(y * pixx, (y + 1) * pixx).map((module) => module === 1),
    );
    expect(read(rows, BarcodeFormat.QR_CODE)).toBe(text);
  },
);

it.each(['I-212/03', 'BW2632008U', 'P-2296'])('a Code 128 of %s reads back', (text) => {
  const { sbs = [] } = modules(BARCODE, text);
  const row = [...sbs].flatMap((width, i) => Array.from({ length: width }, () => i % 2 === 0));
  expect(
    read(
      Array.from({ length: 20 }, () => row),
      BarcodeFormat.CODE_128,
    ),
  ).toBe(text);
});
