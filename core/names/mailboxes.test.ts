import { describe, expect, it } from 'vitest';
import { emailSlip } from './index.ts';

describe('emailSlip', () => {
  it.each([
    ['quill@gmial.com', 'quill@gmail.com'],
    ['quill@gmail.con', 'quill@gmail.com'],
    ['quill@GAMIL.com', 'quill@gmail.com'],
    ['quill@yaho.com', 'quill@yahoo.com'],
    ['quill@hotmal.com', 'quill@hotmail.com'],
    ['quill@outloook.com', 'quill@outlook.com'],
    ['quill@comcst.net', 'quill@comcast.net'],
    ['quill@darkskies.ogr', 'quill@darkskies.org'],
    ['quill@darkskies.example.con', 'quill@darkskies.example.com'],
  ])('asks of %s whether it is %s', (typed, meant) => expect(emailSlip(typed)).toBe(meant));

  it.each([
    ...['quill@gmail.com', 'quill@ymail.com', 'quill@mail.com', 'quill@yahoo.ca', 'quill@yahoo.co.uk', 'quill@aol.com'],
    ...['quill@darkskies.example', 'quill@town.elko.nv.us', 'quill@constructor', '@gmial.com', 'nobody', ''],
  ])('says nothing of %s', (address) => expect(emailSlip(address)).toBeNull());
});
