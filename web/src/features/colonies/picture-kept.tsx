/** The picture that a board was counted from, with every mark as it was decided. */
import { useQuery } from "@tanstack/react-query";
import { boardPictureQuery } from "@/client/queries";
import { Dialog } from "@/ui/dialog";

export function PictureKept({ id, onClose }: { id: string; onClose: () => void }) {
  const picture = useQuery(boardPictureQuery(id));
  const marks = picture.data?.marks ?? [];
  const number = (found: boolean, kept: boolean) =>
    marks.filter((one) => one.found === found && one.kept === kept).length;
  const ring = picture.data ? (picture.data.width / picture.data.width_mm) * 1.4 : 1;
  return (
    <Dialog open onClose={onClose} title="Counted from this picture">
      {picture.isError && (
        <p role="alert" className="font-semibold text-act">
          {picture.error.message}
        </p>
      )}
      {picture.data && (
        <>
          <p>
            {number(true, true)} found and accepted, {number(true, false)} found and struck, {number(false, true)} added
            by {picture.data.by_name || "hand"}.{" "}
            <span className="text-ink-2">
              {picture.data.counted?.length} of {picture.data.grid_columns * picture.data.grid_rows} squares counted.
            </span>
          </p>
          <svg
            viewBox={`0 0 ${picture.data.width} ${picture.data.height}`}
            className="mt-3 block w-full border border-line-2"
            role="img"
            aria-label={`Board with ${number(true, true) + number(false, true)} mites marked`}>
            <image
              href={`/api/v1/board-pictures/${id}/image`}
              width={picture.data.width}
              height={picture.data.height}
            />
            {marks.map((mark, index) => {
              const x = mark.x * picture.data.width;
              const y = mark.y * picture.data.height;
              return mark.kept ? (
                <circle
                  key={index}
                  cx={x}
                  cy={y}
                  r={ring}
                  fill="none"
                  stroke="#0b4f9e"
                  strokeWidth={ring / 3}
                  strokeDasharray={mark.found ? undefined : `${ring / 2} ${ring / 3}`}
                />
              ) : (
                <path
                  key={index}
                  d={
                    `M${x - ring} ${y - ring}l${2 * ring} ${2 * ring}M${x + ring} ` +
                    `${y - ring}l${-2 * ring} ${2 * ring}`
                  }
                  stroke="#52606d"
                  strokeWidth={ring / 4}
                />
              );
            })}
          </svg>
          <p className="mt-2 text-sm text-ink-2">Ring: a mite. Broken ring: added by the person. Cross: struck.</p>
          <p className="mt-1 text-sm">
            <a
              className="underline underline-offset-4"
              href={`/api/v1/board-pictures/${id}/image`}
              target="_blank"
              rel="noreferrer">
              The picture alone
            </a>
          </p>
        </>
      )}
    </Dialog>
  );
}
