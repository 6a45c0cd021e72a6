import "@fontsource/atkinson-hyperlegible-next/400.css";
import "@fontsource/atkinson-hyperlegible-next/700.css";
import "@fontsource/source-serif-4/400.css";
import "@fontsource/source-serif-4/400-italic.css";
import "@fontsource/source-serif-4/600.css";
import "@/app/theme.css";
import { setNonce } from "get-nonce";
import { createRoot } from "react-dom/client";
import { App } from "@/app/App";
import { restoreMode } from "@/app/mode";
import { hushNotSaved, startSender } from "@/shared/outbox";

const nonce = document.querySelector<HTMLMetaElement>("meta[property=csp-nonce]")?.nonce;
if (nonce) setNonce(nonce); // Radix puts a style element in the page; the policy asks for the nonce
restoreMode();
hushNotSaved();
startSender();
if ("serviceWorker" in navigator)
  void navigator.serviceWorker.register("/sw.js").then((worker) => worker?.waiting?.postMessage("take over"));

const root = document.getElementById("root");
if (root) createRoot(root).render(<App />);
