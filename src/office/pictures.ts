import type { Section } from '@/core/inventory';

export const picturesSection: Section = {
  id: 'pictures',
  name: 'Pictures',
  purpose: 'Every picture of the website, with its description and where it is used.',
  icon: 'images',
  care: 'everyday',
  face: 'door',
  home: 'pictures.list',
  permissions: [
    { id: 'media.view', name: 'see all pictures', care: 'everyday', placed: false },
    { id: 'media.describe', name: 'describe pictures', care: 'everyday', placed: false },
  ],
  screens: [{ id: 'pictures.list', name: 'Pictures', path: '/room/pictures', needs: 'media.view' }],
  controls: [
    {
      id: 'pictures.list.all',
      name: 'All pictures',
      screen: 'pictures.list',
      description: 'Each with its description and the pages that use it.',
    },
    {
      id: 'pictures.list.describe',
      name: 'Describe',
      screen: 'pictures.list',
      description: 'Opens the description of a picture.',
      needs: 'media.describe',
    },
    {
      id: 'pictures.form.text',
      name: 'What does it show?',
      screen: 'pictures.list',
      description: 'Read out to people who cannot see the picture.',
      needs: 'media.describe',
      appears: 'after “Describe” is pressed',
    },
    {
      id: 'pictures.form.keep',
      name: 'Keep this description',
      screen: 'pictures.list',
      description: 'Used wherever the picture is, at once.',
      needs: 'media.describe',
      appears: 'after “Describe” is pressed',
    },
  ],
  tasks: [
    {
      id: 'pictures.describe',
      name: 'Describe a picture',
      purpose: 'Say what a picture shows, for people who cannot see it.',
      said: ['alt text', 'alternative text', 'accessibility', 'caption', 'blind', 'photo'],
      needs: ['media.describe'],
      screen: 'pictures.list',
      moves: [
        {
          control: 'pictures.list.describe',
          await: 'press',
          title: 'Choose a picture',
          text: 'Press “Describe” under the picture you want to describe.',
        },
        {
          control: 'pictures.form.text',
          await: 'type',
          title: 'Say what it shows',
          text: 'One sentence, as you would tell it on the phone: “Two children wave from a red tractor.” No “picture of”: that is said already.',
        },
        {
          control: 'pictures.form.keep',
          await: 'press',
          until: ['POST /api/pictures/[id]/describe'],
          title: 'Keep it',
          text: 'The description is used on every page that shows the picture, at once.',
        },
      ],
    },
  ],
};
