import { useState } from "react";

interface Props {
  picture: string;
  alt: string;
  className: string;
  lazy?: boolean;
}

/** A kept picture; where no preview, words in its place. */
export function Preview({ picture, alt, className, lazy = false }: Props) {
  const [lost, setLost] = useState<string | null>(null);
  if (lost === picture) return <span className="px-3 text-center">no preview</span>;
  return (
    <img
      src={`/api/pictures/${picture}/preview`}
      alt={alt}
      loading={lazy ? "lazy" : "eager"}
      draggable={false}
      onError={() => setLost(picture)}
      className={className}
    />
  );
}
