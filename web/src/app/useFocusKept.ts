import { useEffect } from "react";

const FOCUSABLE =
  'button:not(:disabled), a[href], input:not(:disabled), select, textarea, [tabindex="0"]';

/**
 * Where what had the focus goes away, the focus stays beside it and does not fall to the page. A
 * page that goes as a whole leaves it to the heading of the next one.
 */
export function useFocusKept() {
  useEffect(() => {
    let trail: HTMLElement[] = [];
    const remember = (event: FocusEvent) => {
      trail = [];
      for (let at = event.target; at instanceof HTMLElement; at = at.parentElement) trail.push(at);
    };
    const mend = () =>
      window.setTimeout(() => {
        const lost = document.activeElement === document.body && trail[0]?.isConnected === false;
        const near =
          lost && trail.find((element) => element.isConnected && element !== document.body);
        if (near && near.closest("main, [role=dialog]"))
          (near.querySelector<HTMLElement>(FOCUSABLE) ?? near).focus();
      }, 80);
    document.addEventListener("focusin", remember);
    document.addEventListener("click", mend);
    document.addEventListener("keyup", mend);
    return () => {
      document.removeEventListener("focusin", remember);
      document.removeEventListener("click", mend);
      document.removeEventListener("keyup", mend);
    };
  }, []);
}
