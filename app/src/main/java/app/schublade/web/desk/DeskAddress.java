package app.schublade.web.desk;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.web.util.UriComponentsBuilder;

/**
 * Where a user stands on the desk, as it is written in the address bar.
 *
 * @param path {@code /mail/inbox}, {@code /mail/folder/12}, ...
 * @param account the code of the account that the view is narrowed to, or null
 * @param words what is searched for, or null
 */
public record DeskAddress(
        String path,
        @Nullable String account,
        boolean unread,
        boolean flagged,
        boolean files,
        @Nullable String words) {

    /** The address itself. */
    public String here() {
        return with(null, null);
    }

    /** The same place in all accounts, with everything in it. */
    public String everywhere() {
        return new DeskAddress(path, null, false, false, false, words).here();
    }

    /** With a message open. */
    public String open(long message) {
        return with("open", message);
    }

    /** The rows after a place in the list. */
    public String after(String cursor) {
        return with("after", cursor);
    }

    public DeskAddress toggleUnread() {
        return new DeskAddress(path, account, !unread, flagged, files, words);
    }

    public DeskAddress toggleFlagged() {
        return new DeskAddress(path, account, unread, !flagged, files, words);
    }

    public DeskAddress toggleFiles() {
        return new DeskAddress(path, account, unread, flagged, !files, words);
    }

    /** The same place with everything in it. */
    public DeskAddress whole() {
        return new DeskAddress(path, account, false, false, false, words);
    }

    /** What the list is narrowed to, in words: {@code "unread and flagged"}. */
    public String narrowing() {
        List<String> kinds = new ArrayList<>();
        if (unread) {
            kinds.add("unread");
        }
        if (flagged) {
            kinds.add("flagged");
        }
        if (files) {
            kinds.add("with files");
        }
        return String.join(" and ", kinds);
    }

    public boolean isNarrowed() {
        return unread || flagged || files;
    }

    private String with(@Nullable String name, @Nullable Object value) {
        UriComponentsBuilder builder = UriComponentsBuilder.fromPath(path);
        if (words != null) {
            builder.queryParam("words", "{words}");
        }
        if (account != null) {
            builder.queryParam("account", account);
        }
        if (unread) {
            builder.queryParam("unread", "on");
        }
        if (flagged) {
            builder.queryParam("flagged", "on");
        }
        if (files) {
            builder.queryParam("files", "on");
        }
        if (name != null) {
            builder.queryParam(name, value);
        }
        return words == null
                ? builder.toUriString()
                : builder.encode().buildAndExpand(words).toUriString();
    }
}
