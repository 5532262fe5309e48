package app.schublade.core.place;

/** What new mail a tray takes by itself. */
public enum TrayKind {
    PEOPLE("People", "people who write to you, with something new"),
    ONGOING("Ongoing", "answers in conversations that are going on"),
    NOTICES("Notices", "robots, lists and newsletters"),
    RECORDS("Records", "receipts, statements and confirmations");

    private final String shown;
    private final String words;

    TrayKind(String shown, String words) {
        this.shown = shown;
        this.words = words;
    }

    /** What its tray is called to begin with. */
    public String shown() {
        return shown;
    }

    /** Which mail it takes. */
    public String words() {
        return words;
    }
}
