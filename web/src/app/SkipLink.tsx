/** For the keyboard: past the header, to what the page is about. */
export function SkipLink() {
  return (
    <a
      href="#main"
      className="sr-only focus:not-sr-only focus:fixed focus:top-1 focus:left-1 focus:z-50 focus:rounded focus:bg-accent focus:px-4 focus:py-3 focus:text-on-accent"
      onClick={(event) => {
        event.preventDefault();
        const main = document.querySelector("main");
        if (!main) return;
        main.tabIndex = -1;
        main.focus();
      }}
    >
      Skip to content
    </a>
  );
}
