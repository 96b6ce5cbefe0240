"""Reading and writing solos: MusicXML, labelled passages, and the library's own documents."""
