import { useCallback, type RefCallback } from 'react';

/** For the ref of an image or video: shows the blob, and lets go of its address afterwards. */
export function useBlobSource(
  blob: Blob | null | undefined,
): RefCallback<HTMLImageElement | HTMLVideoElement> {
  return useCallback(
    (element) => {
      if (!element || !blob) return;
      const url = URL.createObjectURL(blob);
      element.src = url;
      return () => {
        URL.revokeObjectURL(url);
      };
    },
    [blob],
  );
}
