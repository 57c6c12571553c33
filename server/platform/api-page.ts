import { createRequire } from 'node:module';
import { dirname } from 'node:path';
import express from 'express';

/* The API for people: every endpoint with what it takes and answers, and a way to try it as whoever is signed in. */

/** Where the package that draws the page keeps its files; they are served as they are. */
const FILES = dirname(createRequire(import.meta.url).resolve('swagger-ui-dist/package.json'));
const SERVED = ['swagger-ui.css', 'swagger-ui-bundle.js'];

const PAGE = `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>API · Tallystick</title>
<link rel="icon" href="/mark.svg">
<link rel="stylesheet" href="/api/v1/docs/swagger-ui.css">
<link rel="stylesheet" href="/api/v1/docs/page.css">
<main>
<h1>Tallystick API</h1>
<p>From <a href="/api/v1/openapi.json">the OpenAPI 3.1 document</a>. Amounts are whole cents, dates are YYYY-MM-DD, instants are UTC. Programs send <code>Authorization: Bearer</code> with a token; writes that must not run twice take an <code>Idempotency-Key</code>. Every error has the shape <code>{"error": {"code", "message", "fields"?}}</code>. What is tried here is done for real, as whoever is signed in to Tallystick in this browser; with Undo under All changes.</p>
<div id="api"></div>
</main>
<script src="/api/v1/docs/swagger-ui-bundle.js"></script>
<script src="/api/v1/docs/page.js"></script>
</html>`;

const STYLE = `body{margin:0;background:#fbf8f2;color:#23272f;font:15px/1.5 system-ui,sans-serif}
main{max-width:72rem;margin:0 auto;padding:1rem}h1{font-family:Georgia,serif;font-weight:600}
#api .info,#api .servers{display:none}#api .scheme-container{background:none;box-shadow:none;padding:0}#api,#api *{font-family:inherit}#api code,#api pre *{font-family:ui-monospace,monospace}
code{background:#fff;border:1px solid #e4dccf;border-radius:3px;padding:0 .3rem}a{color:#2f5277}`;

const SCRIPT = `SwaggerUIBundle({ url: '/api/v1/openapi.json', dom_id: '#api', deepLinking: true, docExpansion: 'none', filter: true, tryItOutEnabled: true, validatorUrl: null, syntaxHighlight: false });`;

/** The page, with its files. */
export function apiPage(): express.Router {
  const router = express.Router();
  router.get('/', (_request, response) => void response.type('html').send(PAGE));
  router.get('/page.css', (_request, response) => void response.type('css').send(STYLE));
  router.get('/page.js', (_request, response) => void response.type('js').send(SCRIPT));
  for (const file of SERVED)
    router.get(`/${file}`, (_request, response) => void response.sendFile(file, { root: FILES }));
  return router;
}
