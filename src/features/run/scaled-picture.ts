/** Longest side of a picture that is sent, px: a gauge's figures are read at half of that. */
const longest = 1600;

/**
 * A photograph as it is sent: turned upright, scaled down and freed of whatever its file holds beside it. Where this browser cannot
 * open it, the file goes as it is and the server says what it makes of it.
 */
export async function scaledPicture(file: File): Promise<Blob> {
  let opened: ImageBitmap;
  try {
    opened = await createImageBitmap(file, { imageOrientation: 'from-image' });
  } catch {
    return file;
  }
  const share = Math.min(1, longest / Math.max(opened.width, opened.height));
  const canvas = document.createElement('canvas');
  canvas.width = Math.max(1, Math.round(opened.width * share));
  canvas.height = Math.max(1, Math.round(opened.height * share));
  canvas.getContext('2d')?.drawImage(opened, 0, 0, canvas.width, canvas.height);
  opened.close();
  const made = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/jpeg', 0.85));
  return made ?? file;
}
