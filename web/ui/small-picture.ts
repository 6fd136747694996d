import { photoSchema } from '@vast-surge/core/format';

const longest = 640;

/** A picture made small enough to be kept beside a part or a shot. @throws Error where the file is no picture the browser can read */
export async function smallPicture(file: Blob): Promise<string> {
  const picture = await createImageBitmap(file).catch(() => {
    throw new Error('it is no picture that this browser can read');
  });
  const scale = Math.min(1, longest / Math.max(picture.width, picture.height));
  const canvas = document.createElement('canvas');
  canvas.width = Math.max(1, Math.round(picture.width * scale));
  canvas.height = Math.max(1, Math.round(picture.height * scale));
  canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height);
  const url = canvas.toDataURL('image/jpeg', 0.8);
  const read = photoSchema.safeParse(url);
  if (!read.success) throw new Error(read.error.issues[0]?.message ?? 'it cannot be kept');
  return url;
}
