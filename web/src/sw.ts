/// <reference lib="webworker" />
// Keeps the app's shell on the device, so that a reload without signal shows the sheet, not a blank page.
// Data is kept by the app itself (see shared/outbox); this file never touches the API.
import { cleanupOutdatedCaches, precacheAndRoute } from "workbox-precaching";
import { NavigationRoute, registerRoute } from "workbox-routing";
import { NetworkFirst } from "workbox-strategies";

declare const self: ServiceWorkerGlobalScope;

const SHELL = "shell";
const WAIT_S = 3; // for the network, before the shell that is on the device is shown
const OURS = /<meta name="jubark-build" content="[0-9a-f]{8}"/; // no page of a hotel's network

precacheAndRoute(self.__WB_MANIFEST);
cleanupOutdatedCaches();

const shell = new NetworkFirst({
  cacheName: SHELL,
  networkTimeoutSeconds: WAIT_S,
  plugins: [
    {
      cacheKeyWillBeUsed: async () => "/", // every address shows the same page
      cacheWillUpdate: async ({ response }) =>
        response.ok && OURS.test(await response.clone().text()) ? response : null,
    },
  ],
});
// The core's files carry their hash: one that is on the device is the one asked for.
registerRoute(
  ({ url, sameOrigin }) => sameOrigin && url.pathname.startsWith("/core/"),
  async ({ request }) => (await caches.match(request)) ?? fetch(request),
);
registerRoute(new NavigationRoute(shell, { denylist: [/^\/api\//] }));

self.addEventListener("install", (event) => {
  const page = new Request("/", { cache: "reload" });
  event.waitUntil(shell.handleAll({ event, request: page })[1]);
});
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

// A new version waits: pages that are open go on with the chunks they were made with. One that is loaded anew hands over.
self.addEventListener("message", (event) => {
  if (event.data !== "take over") return;
  event.waitUntil(
    self.clients
      .matchAll({ type: "window" })
      .then((open) => (open.length <= 1 ? self.skipWaiting() : undefined)),
  );
});
