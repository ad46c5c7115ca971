/// <reference types="vite/client" />
import { Link } from "wouter";

const PAGES = [
  { id: "plan", title: "Plan a picture" },
  { id: "at-the-spot", title: "At the spot" },
  { id: "check", title: "Check what you shot" },
  { id: "long-exposure", title: "Long exposures and stacks" },
  { id: "night", title: "Day and night" },
  { id: "kit", title: "Kit" },
] as const;

/** The guide's pages as HTML, made from docs/guide when the app is built. */
const TEXTS = import.meta.glob<string>("../../../../docs/guide/*.md", {
  eager: true,
  import: "default",
});

/** One page of the guide, with the others beside it. */
export function GuidePage({ id }: { id: string }) {
  const html = TEXTS[`../../../../docs/guide/${id}.md`];
  return (
    <main className="mx-auto grid max-w-5xl gap-x-8 px-4 py-5 md:grid-cols-[13rem_minmax(0,1fr)]">
      <nav aria-label="Guide" className="mb-4 grid content-start">
        {PAGES.map((page) => (
          <Link
            key={page.id}
            href={`/guide/${page.id}`}
            aria-current={page.id === id ? "page" : undefined}
            className="flex min-h-11 items-center border-l-3 border-transparent pl-3 aria-[current=page]:border-accent aria-[current=page]:font-semibold"
          >
            {page.title}
          </Link>
        ))}
      </nav>
      {html === undefined ? (
        <p>The guide has no page of that name. Choose one from the list.</p>
      ) : (
        <article className="guide" dangerouslySetInnerHTML={{ __html: html }} />
      )}
    </main>
  );
}
