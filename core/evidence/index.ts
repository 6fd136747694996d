export { book, gathered, type Book, type Held, type Made, type Witnessed } from './book.ts';
export { heldOf, standingOf, standings, wordError, wordRangeOf, type Standing } from './standing.ts';
export { evidenceMarkdown } from './markdown.ts';
