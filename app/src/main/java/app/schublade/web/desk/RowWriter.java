package app.schublade.web.desk;

import app.schublade.core.place.Columns;
import app.schublade.store.message.ListRow;
import app.schublade.store.place.Places;
import app.schublade.web.frame.Markup;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Writes the rows of a list as HTML: {@code <list:rows/>} in a template. */
final class RowWriter {
    private static final String ANSWERED = "M5.5 1.5L1.5 5.5l4 4M1.5 5.5H8c3 0 4.5 1.5 4.5 5";
    private static final String FORWARDED = "M8.5 1.5l4 4-4 4M12.5 5.5H6c-3 0-4.5 1.5-4.5 5";
    private static final String CLIP = "M2 4v6a3 3 0 0 0 6 0V3.5a2 2 0 0 0-4 0V10";

    private static final int MOST_LABELS = 2;

    private final Markup out = new Markup();
    private final String opening;

    private RowWriter(String opening) {
        this.opening = opening;
    }

    /**
     * @param more the address of the rows that follow, or null
     */
    static String write(List<RowView> rows, MessageList listing, @Nullable String more) {
        RowWriter writer = new RowWriter(listing.address().opening());
        List<Columns.SizedColumn> columns = listing.arrangement().columns().all();
        rows.forEach(row -> writer.row(row, columns));
        if (more != null) {
            writer.more(more);
        }
        return writer.out.toString();
    }

    /** Fetches the rows that follow when it comes into sight. */
    private void more(String address) {
        out.open("div", "more").attribute("id", "more").attribute("role", "presentation");
        out.attribute("hx-get", address).attribute("hx-trigger", "intersect root:.scroll once");
        out.attribute("hx-target", "this").attribute("hx-swap", "outerHTML").close();
    }

    private void row(RowView view, List<Columns.SizedColumn> columns) {
        ListRow row = view.row();
        if (view.opensGroup()) {
            out.open("div", "div")
                    .attribute("role", "presentation")
                    .text(view.group())
                    .close();
        }
        out.open("a", "row " + view.css()).attribute("id", "m" + row.id()).attribute("href", opening + row.id());
        out.attribute("role", "option").attribute("aria-selected", "false").attribute("tabindex", "-1");
        out.attribute("draggable", "true")
                .attribute("data-id", row.id())
                .attribute("data-categories", ids(row.categories()));
        out.attribute("data-labels", ids(row.labels()))
                .attribute("data-flag", row.state().flag());
        unseen(first(view));
        account(view);
        marks(view);
        if (columns.isEmpty()) {
            who(view);
            time(view);
            subject(view);
        } else {
            columns.forEach(one -> cell(view, one.column()));
        }
        out.close();
    }

    /** What is heard before all else: the heading, which a list for choosing cannot have, and the marks. */
    private static String first(RowView view) {
        List<String> words = new ArrayList<>();
        if (view.opensGroup()) {
            words.add(view.group());
        }
        if (view.unread()) {
            words.add("unread");
        }
        if (view.row().flagged()) {
            words.add(flagged(view));
        }
        if (view.row().handled().answered()) {
            words.add("answered");
        }
        if (view.row().handled().forwarded()) {
            words.add("forwarded");
        }
        view.categories().forEach(category -> words.add(category.name()));
        return words.isEmpty() ? "" : String.join(", ", words) + ". ";
    }

    private static String flagged(RowView view) {
        return view.flag() == null ? "flagged" : "flagged " + view.flag().name();
    }

    private static String ids(Set<Long> ids) {
        return ids.stream().map(String::valueOf).collect(Collectors.joining(" "));
    }

    private void account(RowView view) {
        out.open("span", "c " + view.account().tone().css());
        out.attribute("title", view.account().name())
                .text(view.account().code())
                .close();
    }

    private void marks(RowView view) {
        out.open("span", "k").open("i", "dot").attribute("title", "unread").close();
        Places.OwnFlag flag = view.flag();
        out.open("i", "ribbon" + (flag == null ? "" : " own " + flag.tone().css()) + (view.overdue() ? " over" : ""));
        out.attribute("title", view.due() == null ? flagged(view) : flagged(view) + ", due " + view.due())
                .close();
        out.close();
    }

    private void cell(RowView view, Columns.Column column) {
        switch (column) {
            case SENDER -> who(view);
            case SUBJECT -> {
                out.open("span", "s");
                handled(view);
                clip(view);
                out.open("b").text(view.subject()).close().close();
            }
            case LABELS -> {
                out.open("span", "s");
                view.labels().forEach(this::label);
                out.close();
            }
            case CATEGORY -> {
                out.open("span", "s");
                view.categories().forEach(this::category);
                String names =
                        view.categories().stream().map(Places.Category::name).collect(Collectors.joining(", "));
                out.element("span", "names", names).close();
            }
            case DATE -> date(view);
            case SIZE -> cell("size", RowView.size(view.row().size()));
            case DUE -> cell(view.overdue() ? "due over" : "due", view.due());
            case FOLDER -> cell("cell", view.folder());
            case ALIAS -> cell("via", view.row().alias());
            case BEGINNING -> cell("beginning", view.beginning());
        }
    }

    private void cell(String css, @Nullable String text) {
        out.open("span", css).attribute("title", text).text(text).close();
    }

    private void date(RowView view) {
        out.open("time", "t").attribute("title", view.exact()).text(view.date()).close();
    }

    private void clip(RowView view) {
        if (view.row().attachments() > 0) {
            out.open("svg", "clip").attribute("viewBox", "0 0 10 14").attribute("role", "img");
            out.attribute("aria-label", "has files").open("path").attribute("d", CLIP);
            out.close().close();
        }
    }

    /** That it was answered or passed on; said before all else of the row. */
    private void handled(RowView view) {
        if (view.row().handled().answered()) {
            arrow("answered", ANSWERED);
        }
        if (view.row().handled().forwarded()) {
            arrow("forwarded", FORWARDED);
        }
    }

    private void arrow(String name, String path) {
        out.open("span", "handled").attribute("title", name);
        out.open("svg")
                .attribute("viewBox", "0 0 14 12")
                .attribute("aria-hidden", "true")
                .open("path");
        out.attribute("d", path).close().close().close();
    }

    private void who(RowView view) {
        out.open("span", "w").open("span").text(view.who()).close();
        if (view.messages() > 1) {
            out.open("span", "fold").attribute("data-open", "false");
            out.attribute("title", view.messages() + " messages: → shows them, ← folds them again");
            out.open("span").text(view.messages()).close();
            unseen(" messages");
            out.close();
        }
        out.close();
    }

    private void time(RowView view) {
        out.open("span", "t");
        handled(view);
        clip(view);
        if (view.due() != null) {
            out.element("span", view.overdue() ? "due over" : "due", "due " + view.due());
        }
        if (view.until() != null) {
            out.element("span", "tickle", view.until());
        }
        out.open("time").attribute("title", view.exact()).text(view.date()).close();
        out.close();
    }

    private void subject(RowView view) {
        out.open("span", "s");
        view.categories().forEach(this::category);
        out.open("b").text(view.subject()).close();
        labels(view.labels());
        if (view.via() != null) {
            out.open("span", "via").attribute("title", view.row().alias());
            out.text("→ " + view.via()).close();
        }
        if (view.place() != null) {
            out.element("span", "lies", "in " + view.place());
        }
        out.open("em").text(view.beginning()).close();
        out.close();
    }

    private void category(Places.Category category) {
        out.open("span", "rank " + category.tone().css()).attribute("title", category.name());
        out.text(category.stamp()).close();
    }

    /** More than two would leave no room for what the message is about. */
    private void labels(List<Places.Label> labels) {
        boolean all = labels.size() <= MOST_LABELS;
        labels.subList(0, all ? labels.size() : MOST_LABELS - 1).forEach(this::label);
        if (!all) {
            List<Places.Label> rest = labels.subList(MOST_LABELS - 1, labels.size());
            String names = rest.stream().map(one -> one.path().shown()).collect(Collectors.joining(", "));
            out.open("span", "chip more-labels").attribute("title", names);
            out.text("+" + rest.size()).close();
            unseen(names);
        }
    }

    private void label(Places.Label label) {
        out.open("span", "chip " + label.css()).attribute("title", label.path().shown());
        out.text(label.path().name()).close();
    }

    /** For those who have the page read out. */
    private void unseen(String text) {
        if (!text.isEmpty()) {
            out.element("span", "visually-hidden", text);
        }
    }
}
