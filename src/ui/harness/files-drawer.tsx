'use client'

/** What is taken away from the harness: lists, the wiring drawing, labels. */
export const FilesDrawer = () => null
