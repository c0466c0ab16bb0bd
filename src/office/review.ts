import type { Section } from '@/core/inventory';

export const review: Section = {
  id: 'review',
  name: 'Second look',
  purpose: 'Drafts of others that wait to be read before visitors see them.',
  icon: 'glasses',
  care: 'care',
  face: 'door',
  home: 'review.list',
  permissions: [
    { id: 'review.view', name: 'see what waits for a second look', care: 'everyday', placed: true },
    {
      id: 'review.decide',
      name: 'give the second look: publish or send back',
      care: 'care',
      placed: true,
      secondPerson: true,
    },
  ],
  screens: [
    { id: 'review.list', name: 'Second look', path: '/room/review', needs: 'review.view' },
    { id: 'review.look', name: 'One draft', path: '/room/review/[id]', needs: 'review.view', on: 'review' },
  ],
  controls: [
    {
      id: 'review.list.waiting',
      name: 'Waiting for a second look',
      screen: 'review.list',
      description: 'Oldest first, with who sent it and why.',
    },
    {
      id: 'review.look.changes',
      name: 'What changed',
      screen: 'review.look',
      description: 'Added and removed words, field by field.',
    },
    {
      id: 'review.look.remarks',
      name: 'Remarks',
      screen: 'review.look',
      description: 'Words about single places, to be answered and settled.',
    },
    {
      id: 'review.look.word',
      name: 'A word to go with it',
      screen: 'review.look',
      description: 'What the writer should know, above all when it goes back.',
      needs: 'review.decide',
      appears: 'on a draft that is not your own',
    },
    {
      id: 'review.look.publish',
      name: 'Publish it',
      screen: 'review.look',
      description: 'Visitors see it at once.',
      needs: 'review.decide',
      appears: 'on a draft that is not your own',
    },
    {
      id: 'review.look.later',
      name: 'Publish later',
      screen: 'review.look',
      description: 'Visitors see it from an hour you choose.',
      needs: 'review.decide',
      appears: 'on a draft that is not your own',
    },
    {
      id: 'review.look.back',
      name: 'Send it back',
      screen: 'review.look',
      description: 'The writer gets it back with your word; the website stays as it is.',
      needs: 'review.decide',
      appears: 'on a draft that is not your own',
    },
  ],
  widgets: [
    {
      id: 'review.waiting',
      name: 'Waiting for a second look',
      description: 'What others sent and nobody has looked at yet.',
      needs: 'review.view',
    },
  ],
  tasks: [
    {
      id: 'review.decide',
      name: 'Give a page a second look',
      purpose: 'Read what somebody changed, then publish it or send it back.',
      said: ['review', 'approve', 'check', 'proofread', 'waiting', 'accept', 'reject'],
      needs: ['review.decide'],
      thing: 'review',
      screen: 'review.list',
      moves: [
        {
          control: 'review.list.waiting',
          await: 'press',
          title: 'Open the oldest first',
          text: 'Somebody waits for each of these. Press a title to see what changed.',
        },
        {
          control: 'review.look.changes',
          await: 'see',
          title: 'Read only what changed',
          text: 'Added words are underlined and marked with a plus, removed words are struck through and marked with a minus. Everything else is as visitors know it.',
        },
        {
          control: 'review.look.remarks',
          await: 'see',
          title: 'Remark on single places',
          text: 'Press “Remark” beside a line to say what should be different in that place. The writer sees it beside the text, answers it or settles it.',
        },
        {
          control: 'review.look.word',
          await: 'see',
          title: 'Leave a word',
          text: 'Needed when you send it back: say what should be different, so that the writer need not guess.',
        },
        {
          control: 'review.look.publish',
          await: 'see',
          until: 'POST /api/review/[id]/decide',
          title: 'Publish it, or send it back',
          text: '“Publish it” puts it on the website at once. “Send it back” changes nothing on the website.',
        },
      ],
    },
  ],
};
