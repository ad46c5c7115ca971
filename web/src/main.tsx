import "@fontsource-variable/atkinson-hyperlegible-next";
import "./app/styles.css";

import { setNonce } from "get-nonce";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";

import { App, opening } from "./app/App";

// Dialogs lock scrolling with a style element of their own; the page's policy asks for this mark.
const nonce = document.querySelector<HTMLMetaElement>('meta[name="csp-nonce"]')?.content;
if (nonce) setNonce(nonce);

const root = document.getElementById("root");
const draw = () => {
  if (root)
    createRoot(root).render(
      <StrictMode>
        <App />
      </StrictMode>,
    );
};
void opening(window.location.pathname).then(draw, draw);
