/** Pictures made as small as the program keeps them, before they are kept here: a phone's store is soon full of whole ones. */

/** What the program keeps of a photo at the most: its longest side, pixels, and its size, bytes. */
const longestSide = 1600;
const largestPhoto = 400 << 10;

/** A picture that this browser cannot read. */
export class NoPicture extends Error {
  constructor() {
    super('This is no picture that can be read here: save it as JPEG, PNG or WebP.');
  }
}

/** The picture turned upright and small, as JPEG, with what the camera noted of place and time. Throws NoPicture. */
export async function shrunk(file: Blob): Promise<Blob> {
  const noted = upright(exifOf(new Uint8Array(await file.arrayBuffer())));
  let bitmap: ImageBitmap;
  try {
    bitmap = await createImageBitmap(file, { imageOrientation: 'from-image' });
  } catch {
    throw new NoPicture();
  }
  try {
    for (let side = longestSide; ; side *= 0.75) {
      const scale = Math.min(1, side / Math.max(bitmap.width, bitmap.height));
      const small = drawn(bitmap, Math.max(1, Math.round(bitmap.width * scale)), Math.max(1, Math.round(bitmap.height * scale)));
      for (const quality of [0.85, 0.7, 0.55, 0.4]) {
        const jpeg = withExif(await asJPEG(small, quality), noted);
        if (jpeg.size <= largestPhoto) return jpeg;
      }
    }
  } finally {
    bitmap.close();
  }
}

function drawn(bitmap: ImageBitmap, width: number, height: number): HTMLCanvasElement {
  const canvas = document.createElement('canvas');
  canvas.width = width;
  canvas.height = height;
  const pen = canvas.getContext('2d');
  if (!pen) throw new NoPicture();
  pen.fillStyle = '#fff'; // behind what can be seen through
  pen.fillRect(0, 0, width, height);
  pen.imageSmoothingQuality = 'high';
  pen.drawImage(bitmap, 0, 0, width, height);
  return canvas;
}

const asJPEG = (canvas: HTMLCanvasElement, quality: number): Promise<Blob> =>
  new Promise((resolve, reject) => canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new NoPicture())), 'image/jpeg', quality));

/** The segment of a JPEG in which a camera notes place, time and how it was held; null where there is none. */
export function exifOf(raw: Uint8Array): Uint8Array | null {
  if (raw[0] !== 0xff || raw[1] !== 0xd8) return null;
  for (let at = 2; raw[at] === 0xff && at + 4 <= raw.length;) {
    const marker = raw[at + 1] ?? 0;
    if (marker === 0xda) return null;
    const length = ((raw[at + 2] ?? 0) << 8) | (raw[at + 3] ?? 0);
    const isExif = marker === 0xe1 && String.fromCharCode(...raw.slice(at + 4, at + 8)) === 'Exif';
    if (isExif) return raw.slice(at, at + 2 + length);
    at += 2 + length;
  }
  return null;
}

const turnTag = 0x0112;

/** The same, where the picture was turned upright since: nobody turns it once more. */
export function upright(segment: Uint8Array | null): Uint8Array | null {
  if (!segment) return null;
  const tiff = 10;
  const view = new DataView(segment.buffer, segment.byteOffset, segment.byteLength);
  const little = segment[tiff] === 0x49;
  try {
    const first = tiff + view.getUint32(tiff + 4, little);
    for (let i = 0; i < view.getUint16(first, little); i++) {
      const entry = first + 2 + 12 * i;
      if (view.getUint16(entry, little) === turnTag) view.setUint16(entry + 8, 1, little);
    }
    return segment;
  } catch {
    return null; // what cannot be read is left out
  }
}

/** A JPEG with such a segment put in after its beginning. */
const withExif = (jpeg: Blob, segment: Uint8Array | null): Blob =>
  segment ? new Blob([jpeg.slice(0, 2), new Uint8Array(segment), jpeg.slice(2)], { type: 'image/jpeg' }) : jpeg;
