import type { APIRoute } from 'astro';
import { db } from '@/server/db/client';
import { answerFault } from '@/server/gate/endpoint';
import { notFound } from '@/server/gate/problems';
import { findBlob } from '@/server/pictures/pictures';

/**
 * The bytes of a picture, open to everybody. The address is their hash, so they can be kept for good; scripts in a
 * drawing never run.
 */
export const GET: APIRoute = async ({ params, request }) => {
  try {
    const blob = await findBlob(db, params['hash'] ?? '');
    if (!blob) throw notFound('This picture');
    return new Response(new Uint8Array(blob.bytes), {
      headers: {
        'content-type': blob.mime,
        'cache-control': 'public, max-age=31536000, immutable',
        'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox",
      },
    });
  } catch (error) {
    return answerFault(error, request);
  }
};
