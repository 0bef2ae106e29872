import { t } from "@lingui/core/macro";
const LONGEST = 1600;
const QUALITY = 0.8;

/** A smaller JPEG of a picture's pixels alone: place, time and camera stay behind. Throws where it cannot be read. */
export async function shrink(file: File): Promise<File> {
  const picture = await createImageBitmap(file);
  const scale = Math.min(1, LONGEST / Math.max(picture.width, picture.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, Math.round(picture.width * scale));
  canvas.height = Math.max(1, Math.round(picture.height * scale));
  const drawn = canvas.getContext("2d");
  if (drawn) {
    drawn.fillStyle = "white"; // of what is transparent; a JPEG would have it black
    drawn.fillRect(0, 0, canvas.width, canvas.height);
    drawn.drawImage(picture, 0, 0, canvas.width, canvas.height);
  }
  picture.close();
  const made = await new Promise<Blob | null>((done) => canvas.toBlob(done, "image/jpeg", QUALITY));
  if (!made) throw new Error(t`The browser could not make a picture of it.`);
  return new File([made], "photo.jpg", { type: "image/jpeg" });
}
