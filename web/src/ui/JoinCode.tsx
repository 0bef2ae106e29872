import { t } from "@lingui/core/macro";
import { colour } from "./theme";

type Link = { address: string; qr_path: string; qr_size: number };

/** A square code that a phone's camera reads: the address of a page with its code. */
export function JoinCode({ link, size }: { link: Link; size: string }) {
  return (
    <svg
      viewBox={`0 0 ${link.qr_size} ${link.qr_size}`}
      width={size}
      height={size}
      role="img"
      aria-label={t`Square code for ${link.address}`}
      shapeRendering="crispEdges"
    >
      <rect width={link.qr_size} height={link.qr_size} fill={colour.white} />
      <path d={link.qr_path} fill="#000" />
    </svg>
  );
}
