/// <reference types="astro/client" />

declare namespace App {
  interface Locals {
    /** Set on every screen of the Room and the Workshop. */
    access: import('@/server/gate/access').Access;
    /** What whoever looks made of the frame around every screen. */
    own: import('@/server/own').OwnFrame;
    /** What the address's `[id]` names, where the screen says so. */
    thing: import('@/server/gate/authorize').Thing;
    /** Set on the page that tells of a refusal or fault. */
    problem?: import('@/server/gate/problems').Problem;
  }
}
