import { useEffect, useState } from 'react';

/** A QR code; its maker is fetched when first needed. */
export function QrPicture({ text }: { readonly text: string }) {
  const [source, setSource] = useState<string>();
  useEffect(() => {
    let isGone = false;
    void import('qrcode').then(async ({ toString }) => {
      const svg = await toString(text, { type: 'svg', margin: 3, errorCorrectionLevel: 'M' });
      if (!isGone) setSource(`data:image/svg+xml,${encodeURIComponent(svg)}`);
    });
    return () => {
      isGone = true;
    };
  }, [text]);
  return (
    <div className="size-44 shrink-0 bg-white">
      {source && <img src={source} alt="The link, to scan" className="size-full" />}
    </div>
  );
}
