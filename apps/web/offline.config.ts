import type { VitePWAOptions } from 'vite-plugin-pwa';

/**
 * The app without a network: its own files as they were when it was last here, and the answers about pieces that were
 * opened. What is written meanwhile waits in the browser by itself. Stands that took pieces home open too; a room is nothing
 * without its server.
 */
export const OFFLINE: Partial<VitePWAOptions> = {
  injectRegister: false,
  registerType: 'autoUpdate',
  manifest: {
    name: 'Anchorbeat',
    short_name: 'Anchorbeat',
    description: 'Maps bars, meters, count-offs and tempo equivalences into a conducted click.',
    display: 'standalone',
    start_url: '/',
    background_color: '#f3eee3',
    theme_color: '#1c2733',
    icons: [{ src: '/icon.svg', sizes: 'any', type: 'image/svg+xml' }],
  },
  workbox: {
    cacheId: 'anchorbeat',
    inlineWorkboxRuntime: true,
    skipWaiting: true,
    clientsClaim: true,
    // Each function here goes into the worker as it is written: it may mention nothing outside itself.
    // Writers of paper and of compressed sound are large and seldom wanted: they are kept once they were used.
    globPatterns: ['assets/*.{js,css,woff2,otf}', 'icon.svg'],
    globIgnores: ['**/{pdfkit,write,sheets,files,Words}*', '**/*-ext-*'],
    navigateFallback: null,
    runtimeCaching: [
      {
        // The newest page where there is a server, else the one that was here last, at whatever address of the app.
        urlPattern: ({ request, url }) =>
          request.mode === 'navigate' && !/^\/(s|api)(\/|$)/.test(url.pathname),
        handler: 'NetworkFirst',
        options: {
          cacheName: 'anchorbeat-page',
          plugins: [{ cacheKeyWillBeUsed: () => Promise.resolve('/') }],
        },
      },
      {
        // The same for the page of stands.
        urlPattern: ({ request, url }) => request.mode === 'navigate' && /^\/s(\/|$)/.test(url.pathname),
        handler: 'NetworkFirst',
        options: {
          cacheName: 'anchorbeat-page',
          plugins: [{ cacheKeyWillBeUsed: () => Promise.resolve('/s') }],
        },
      },
      {
        // What is said at a stand, for who practises at home.
        urlPattern: ({ url, sameOrigin }) => sameOrigin && url.pathname.startsWith('/words/words.'),
        handler: 'NetworkFirst',
        options: { cacheName: 'anchorbeat-words', expiration: { maxEntries: 4 } },
      },
      {
        urlPattern: ({ url, sameOrigin }) => sameOrigin && url.pathname.startsWith('/assets/'),
        handler: 'CacheFirst',
        options: { cacheName: 'anchorbeat-files', expiration: { maxEntries: 120 } },
      },
      {
        // What is asked of the server while it is there, and taken from its last answer while it is not.
        urlPattern: ({ url, sameOrigin }) =>
          sameOrigin &&
          /^\/api\/(session$|ensembles(\/[^/]+\/(pieces|dates|drills|members))?$|pieces)/.test(url.pathname),
        handler: 'NetworkFirst',
        options: { cacheName: 'anchorbeat-answers', expiration: { maxEntries: 400 } },
      },
    ],
  },
};
