/** Twice as many pixels as points: sharp on a slide. */
const PIXELS_A_POINT = 2;

/** An SVG picture as PNG. */
export async function pngOf(svg: Uint8Array): Promise<Blob> {
  const image = new Image();
  image.src = `data:image/svg+xml;base64,${await base64(svg)}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  canvas.width = Math.round(image.naturalWidth * PIXELS_A_POINT);
  canvas.height = Math.round(image.naturalHeight * PIXELS_A_POINT);
  canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height);
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'));
  if (!blob) throw new Error('this picture is too large for the browser: print fewer bars');
  return blob;
}

function base64(bytes: Uint8Array): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () =>
      resolve(typeof reader.result === 'string' ? (reader.result.split(',')[1] ?? '') : '');
    reader.onerror = () => reject(new Error('this picture could not be read'));
    reader.readAsDataURL(new Blob([Uint8Array.from(bytes)]));
  });
}
