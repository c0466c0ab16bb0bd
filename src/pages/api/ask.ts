import { endpoint } from '@/server/gate/endpoint';
import { keepQuestion, listAskable } from '@/server/ask/questions';

/** All that “Where do I…?” knows for whoever asks, and what was chosen for questions before. */
export const GET = endpoint('GET /api/ask', { needs: 'signed-in', run: ({ tx, access }) => listAskable(tx, access) });

/** Remembers what was chosen for a question, or that nothing was found. */
export const POST = endpoint('POST /api/ask', {
  needs: 'signed-in',
  run: ({ tx, access, body }) => keepQuestion(tx, access, body.asked, body.chosen),
});
