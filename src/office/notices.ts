import type { Section } from '@/core/inventory';

export const notices: Section = {
  id: 'notices',
  name: 'Notices',
  purpose: 'Messages across the top of the website, or of one part of it, with a start and an end.',
  icon: 'megaphone',
  care: 'everyday',
  face: 'door',
  home: 'notices.list',
  permissions: [
    { id: 'notice.view', name: 'see all notices', care: 'everyday', placed: true, ownAuthor: true },
    { id: 'notice.post', name: 'post notices', care: 'everyday', placed: true, ownAuthor: true },
    { id: 'notice.end', name: 'end notices', care: 'everyday', placed: true, ownAuthor: true },
  ],
  screens: [{ id: 'notices.list', name: 'Notices', path: '/room/notices', needs: 'notice.view' }],
  controls: [
    { id: 'notices.list.post', name: 'Post a notice', screen: 'notices.list', description: 'Opens the form for a new notice.', needs: 'notice.post' },
    { id: 'notices.form.text', name: 'What should visitors read?', screen: 'notices.list', description: 'The message itself.', needs: 'notice.post', appears: 'after “Post a notice” is pressed' },
    { id: 'notices.form.place', name: 'Where does it show?', screen: 'notices.list', description: 'The whole website, or one branch of it.', needs: 'notice.post', appears: 'after “Post a notice” is pressed' },
    { id: 'notices.form.until', name: 'When does it end?', screen: 'notices.list', description: 'It comes down by itself then.', needs: 'notice.post', appears: 'after “Post a notice” is pressed' },
    { id: 'notices.form.send', name: 'Put it on the website', screen: 'notices.list', description: 'Visitors see it at once, or from its start.', needs: 'notice.post', appears: 'after “Post a notice” is pressed' },
    { id: 'notices.list.now', name: 'Showing now', screen: 'notices.list', description: 'What visitors read at this moment.' },
    { id: 'notices.list.correct', name: 'Correct', screen: 'notices.list', said: ['change a notice', 'mistake in a notice', 'edit a notice', 'longer', 'extend a notice'], description: 'Changes the words or the end of a notice that is on the website.', needs: 'notice.post', appears: 'while a notice is showing' },
    { id: 'notices.list.end', name: 'End now', screen: 'notices.list', description: 'Takes the notice off the website at once; it stays in the list.', needs: 'notice.end', appears: 'while a notice is showing' },
  ],
  widgets: [{ id: 'notices.now', name: 'Notices showing now', description: 'What visitors read across the top at this moment.', needs: 'notice.view' }],
  tasks: [
    {
      id: 'notices.post',
      name: 'Post a notice',
      purpose: 'Tell visitors something at once. It is on the website in seconds, and comes down by itself.',
      said: ['boats stopped', 'not running', 'tell everybody', 'let people know', 'announce', 'message', 'banner', 'warn', 'news flash', 'closed today', 'delay', 'late', 'cancelled'],
      needs: ['notice.post'],
      thing: 'newNotice',
      screen: 'notices.list',
      moves: [
        { control: 'notices.list.post', await: 'press', title: 'Begin with Post a notice', text: 'A form opens. Nothing is on the website until you say so at its end.' },
        { control: 'notices.form.text', await: 'type', title: 'Write what visitors need', text: 'What, where, until when: “The 07:40 to Skell Island runs 20 minutes late.” Keep it to one or two sentences; people read it standing.' },
        { control: 'notices.form.place', await: 'see', title: 'Choose where it shows', text: 'A notice shows on the page you choose and on all pages below it.' },
        { control: 'notices.form.until', await: 'see', title: 'Give it an end', text: 'A notice that stays after its time makes visitors doubt the next one. It comes down by itself at this time.' },
        { control: 'notices.form.send', await: 'press', until: 'notice.posted', title: 'Put it on the website', text: 'Visitors see it at once. A mistake? Press Correct beside it.' },
      ],
    },
    {
      id: 'notices.end',
      name: 'End a notice',
      purpose: 'Take a notice off the website before its time.',
      said: ['no longer true', 'take the warning away', 'remove a notice', 'is over', 'take the message down', 'remove', 'take down', 'over', 'stop', 'delete', 'back to normal'],
      needs: ['notice.view', 'notice.end'],
      thing: 'notice',
      screen: 'notices.list',
      moves: [
        { control: 'notices.list.now', await: 'see', title: 'Find it under Showing now', text: 'These notices are what visitors read at this moment.' },
        { control: 'notices.list.end', await: 'press', until: 'notice.ended', title: 'Press End now', text: 'It leaves the website at once and stays in the list of ended notices, so that you can see later what was said.' },
      ],
    },
  ],
};
