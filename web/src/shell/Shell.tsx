import type { ReactNode } from "react";
import { Link, useLocation } from "wouter";

import { DeviceControlsLater } from "./DeviceControlsLater";

const PLACES: readonly { href: string; text: string; isSmall?: boolean }[] = [
  { href: "/", text: "Outings" },
  { href: "/places", text: "Places" },
  { href: "/takes", text: "Takes" },
  { href: "/kit", text: "Kit" },
  // On a narrow screen the help of each page leads there.
  { href: "/words", text: "Glossary", isSmall: true },
  { href: "/phone", text: "Phone" },
];

/** The mark of the product: the wanted exposure, and where on it the slip is. */
export function Mark() {
  return (
    <svg viewBox="0 0 24 24" className="h-6 w-6 shrink-0" aria-hidden="true">
      <path d="M2 4 22 20" stroke="currentColor" strokeWidth="2.5" />
      <circle cx="13" cy="12.8" r="5" fill="var(--accent)" stroke="var(--panel)" strokeWidth="2" />
    </svg>
  );
}

/** Header and places around the pages that are not a sheet. */
export function Shell({ children }: { children: ReactNode }) {
  const [location] = useLocation();
  return (
    <div className="min-h-dvh">
      <header className="no-print flex min-h-13 flex-wrap items-center border-b border-line bg-panel px-3 max-[420px]:px-1 md:px-5">
        <Link
          href="/"
          className="mr-4 flex min-h-11 min-w-11 items-center gap-2 font-semibold max-[480px]:mr-0 max-[430px]:hidden"
        >
          <Mark />
          <span className="max-[420px]:sr-only">Oxlen</span>
        </Link>
        <nav aria-label="Main pages" className="flex flex-wrap self-stretch">
          {PLACES.map((place) => (
            <Link
              key={place.href}
              href={place.href}
              aria-current={location === place.href ? "page" : undefined}
              className={`flex min-h-13 min-w-11 items-center justify-center border-b-3 border-transparent px-3 max-[480px]:px-1.5 max-[380px]:px-0.5 max-[380px]:text-[0.9rem] aria-[current=page]:border-accent aria-[current=page]:font-semibold ${place.isSmall ? "max-[480px]:hidden" : ""}`}
            >
              {place.text}
            </Link>
          ))}
        </nav>
        <div className="ml-auto">
          <DeviceControlsLater />
        </div>
      </header>
      {children}
    </div>
  );
}
