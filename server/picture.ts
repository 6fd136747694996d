import sharp from 'sharp';

/** What a picture may be made of before it is decoded: a camera's, and not a bomb. */
const mostPixels = 40e6;

/** Something that is called a picture and is none, or one that cannot be kept. */
export class NoPicture extends Error {
  constructor(reason: string) {
    super(reason);
    this.name = 'NoPicture';
  }
}

const formats = ['jpeg', 'png', 'webp'] as const;

/**
 * A picture as it is kept: decoded and encoded anew, turned upright, without what its file said beside it (where it was taken, by which
 * camera, and whatever else was put in).
 *
 * @param url as a data URL: JPEG, PNG or WebP
 * @param most characters that the kept one may have
 * @param leaveClean keeps one that decodes and has nothing beside the picture to the byte: for what was kept like that before
 * @returns a data URL of the same format, or of JPEG where that would be too large
 * @throws NoPicture where it cannot be decoded, or is too large however it is encoded
 */
export async function keptPicture(url: string, most: number, leaveClean = false): Promise<string> {
  const [, base64 = ''] = /^data:image\/[a-z]+;base64,(.*)$/s.exec(url) ?? [];
  const image = sharp(Buffer.from(base64, 'base64'), { limitInputPixels: mostPixels, failOn: 'error', animated: false });
  try {
    const { format, exif, icc, iptc, xmp, orientation } = await image.metadata();
    const own = formats.find((one) => one === format);
    if (!own) throw new NoPicture('must be a JPEG, PNG or WebP picture');
    if (leaveClean && !exif && !icc && !iptc && !xmp && !orientation && url.length <= most) {
      // Decoded whole all the same: a cut one is told.
      await image.clone().stats();
      return url;
    }
    const tries = [
      () => image.clone().rotate().toFormat(own, { quality: 88 }),
      () => image.clone().rotate().flatten({ background: '#ffffff' }).jpeg({ quality: 80 }),
      () =>
        image
          .clone()
          .rotate()
          .flatten({ background: '#ffffff' })
          .resize(1600, 1600, { fit: 'inside', withoutEnlargement: true })
          .jpeg({ quality: 70 }),
    ];
    for (const attempt of tries) {
      const { data, info } = await attempt().toBuffer({ resolveWithObject: true });
      const kept = `data:image/${info.format};base64,${data.toString('base64')}`;
      if (kept.length <= most) return kept;
    }
  } catch (error) {
    if (error instanceof NoPicture) throw error;
    throw new NoPicture('cannot be decoded as a picture');
  }
  throw new NoPicture(`is too large: at most ${Math.floor((most * 3) / 4 / 1024)} KiB once it is encoded`);
}
