import { matchPrecache, precacheAndRoute } from "workbox-precaching";
import { NavigationRoute, registerRoute } from "workbox-routing";
import { NetworkFirst } from "workbox-strategies";

declare const self: ServiceWorkerGlobalScope;
/** What the screens are built of, filled in where this is built. */
declare const FILES: { url: string; revision: string | null }[];

/** Marks an answer that this device had kept: the server did not answer. */
async function kept(answer: Response | undefined) {
  if (!answer) return null;
  const headers = new Headers(answer.headers);
  headers.set("x-kept", "yes");
  return new Response(await answer.blob(), { status: answer.status, headers });
}

/** What a sheet at the panel needs: the plan, its sheets, what was done, and the library of gear. */
const NEEDED = /^\/api\/(plans\/[^/]+(\/sheets|\/record)?|library\/.+)$/;

self.addEventListener("install", () => void self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

/** The server first, whatever is kept: a screen of yesterday must not look like today's. */
registerRoute(
  new NavigationRoute(
    new NetworkFirst({
      cacheName: "pages",
      plugins: [
        {
          handlerDidError: async () => (await matchPrecache("/index.html")) ?? Response.error(),
          cacheWillUpdate: async () => null,
        },
      ],
    }),
  ),
);
registerRoute(
  ({ url, sameOrigin }) => sameOrigin && NEEDED.test(url.pathname),
  new NetworkFirst({
    cacheName: "sheets",
    plugins: [{ cachedResponseWillBeUsed: ({ cachedResponse }) => kept(cachedResponse) }],
  }),
);
precacheAndRoute(FILES, { cleanURLs: false });
