import { toSVG } from 'bwip-js/node';

/** A QR code of a text, as SVG; medium error correction, as the library has it. */
export const qrSvg = (text: string): string => toSVG({ bcid: 'qrcode', text, scale: 3 });

/** A Code 128 barcode of a code, as SVG, without its text. */
export const barcodeSvg = (text: string): string =>
  toSVG({ bcid: 'code128', text, height: 10, scale: 2, includetext: false });
