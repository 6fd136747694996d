import express, { Router } from 'express';
import { absolutePath } from 'swagger-ui-dist';
import { openApi } from './document.ts';

const html = `<!doctype html>
<html lang="en">
  <head>
    <meta charset="utf-8" />
    <meta name="viewport" content="width=device-width" />
    <title>The API of Vast Surge</title>
    <link rel="stylesheet" href="/api/docs/swagger-ui.css" />
  </head>
  <body>
    <div id="api"></div>
    <script src="/api/docs/swagger-ui-bundle.js"></script>
    <script src="/api/docs/begin.js"></script>
  </body>
</html>
`;

// No validator on another machine is asked, and nothing can be sent from here by a slip: a write beside a charged bank is no try-out.
const begin = `SwaggerUIBundle({
  url: '/api/openapi.json',
  dom_id: '#api',
  validatorUrl: null,
  supportedSubmitMethods: ['get'],
  docExpansion: 'none',
  defaultModelsExpandDepth: 0,
});
`;

/** The description of the API for programs, and as a page for people. */
export function openApiRoutes(version: string): Router {
  const routes = Router();
  let document: object | undefined;
  routes.get('/openapi.json', (_req, res) => {
    res.json((document ??= openApi(version)));
  });
  routes.get('/docs', (_req, res) => {
    res.type('html').send(html);
  });
  routes.get('/docs/begin.js', (_req, res) => {
    res.type('js').send(begin);
  });
  routes.use('/docs', express.static(absolutePath(), { index: false }));
  return routes;
}
