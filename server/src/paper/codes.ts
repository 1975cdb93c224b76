import { toSVG } from 'bwip-js/node';

/** Medium error correction is what the library takes of itself. */
export const QR = { bcid: 'qrcode', scale: 3 };
export const BARCODE = { bcid: 'code128', height: 10, scale: 2, includetext: false };

/** A QR code of a text, as SVG. */
export const qrSvg = (text: string): string => toSVG({ ...QR, text });

/** A Code 128 barcode of a code, as SVG, without its text. */
export const barcodeSvg = (text: string): string => toSVG({ ...BARCODE, text });
