/// <reference lib="webworker" />
// Keeps the app's shell on the device, so that a reload without signal shows the sheet, not a blank page.
// Data is kept by the app itself (see shared/outbox); this file never touches the API.
import { cleanupOutdatedCaches, precacheAndRoute } from "workbox-precaching";

declare const self: ServiceWorkerGlobalScope;

const SHELL = "shell";
precacheAndRoute(self.__WB_MANIFEST);
cleanupOutdatedCaches();

self.addEventListener("install", (event) => {
  event.waitUntil(
    caches
      .open(SHELL)
      .then((cache) => cache.add(new Request("/", { cache: "reload" })))
      .then(() => self.skipWaiting()),
  );
});
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

self.addEventListener("fetch", (event) => {
  const { request } = event;
  if (request.mode !== "navigate" || new URL(request.url).pathname.startsWith("/api/")) return;
  event.respondWith(
    fetch(request)
      .then(async (response) => {
        if (response.ok) await (await caches.open(SHELL)).put("/", response.clone());
        return response;
      })
      .catch(async () => (await caches.match("/", { cacheName: SHELL })) ?? Response.error()),
  );
});
