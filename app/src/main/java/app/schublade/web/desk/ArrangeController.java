package app.schublade.web.desk;

import app.schublade.core.place.Arrangement;
import app.schublade.core.place.Columns;
import app.schublade.core.query.Filter;
import app.schublade.store.act.Acts;
import app.schublade.store.user.ArrangementStore;
import app.schublade.web.frame.CurrentUser;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;

/** How the list of a place is grouped and sorted, what its columns are, and what the user's own filter leaves in it. */
@Controller
class ArrangeController {
    private static final String ARRANGED = "Arranged a list";

    private final Acts acts;
    private final ArrangementStore arrangements;

    ArrangeController(Acts acts, ArrangementStore arrangements) {
        this.acts = acts;
        this.arrangements = arrangements;
    }

    /** @param column those that the list is to have, if it is to be in columns; none for the usual ones */
    @PostMapping("/mail/arrange")
    String arrange(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam String here,
            @RequestParam Arrangement.Grouping grouping,
            @RequestParam Arrangement.SortOrder order,
            @RequestParam(defaultValue = "false") boolean conversations,
            @RequestParam(defaultValue = "false") boolean inColumns,
            @RequestParam(required = false) @Nullable Set<Columns.Column> column,
            @RequestParam(defaultValue = "false") boolean everywhere) {
        DeskUrl address = DeskUrl.parse(here);
        Columns before = arrangements.of(person.id(), address.place()).columns();
        Columns columns = inColumns ? chosen(before, column) : Columns.NONE;
        Arrangement arrangement = new Arrangement(grouping, order, conversations, columns);
        acts.record(person.id(), ARRANGED, () -> {
            if (everywhere) {
                arrangements.keepForAll(person.id(), arrangement);
            } else {
                arrangements.keep(person.id(), address.place(), arrangement);
            }
        });
        return "redirect:" + address.here();
    }

    private static Columns chosen(Columns before, @Nullable Set<Columns.Column> wanted) {
        Columns begin = before.isEmpty() ? Columns.USUAL : before;
        return wanted == null ? begin : begin.only(wanted);
    }

    /** What the user's own filter leaves in this place; it is shown at once. */
    @PostMapping("/mail/own-filter")
    String ownFilter(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam String here,
            @RequestParam(defaultValue = "") Set<Filter> filter) {
        DeskUrl address = DeskUrl.parse(here);
        acts.record(
                person.id(),
                "Changed your filter of a list",
                () -> arrangements.keepOwnFilter(person.id(), address.place(), filter));
        return "redirect:" + (address.narrowing().own() ? address : address.toggleOwn()).here();
    }

    /** The head of a column was pressed. */
    @PostMapping("/mail/sort")
    String sort(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam String here,
            @RequestParam Arrangement.SortKey key) {
        DeskUrl address = DeskUrl.parse(here);
        Arrangement before = arrangements.of(person.id(), address.place());
        acts.record(
                person.id(),
                ARRANGED,
                () -> arrangements.keep(
                        person.id(), address.place(), before.by(before.order().next(key))));
        return "redirect:" + address.here();
    }

    /** Columns were put into another order, or made wider or narrower. */
    @PostMapping("/mail/columns")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void columns(@AuthenticationPrincipal CurrentUser person, @RequestParam String here, @RequestParam String columns) {
        String place = DeskUrl.parse(here).place();
        acts.record(
                person.id(),
                ARRANGED,
                () -> arrangements.keep(
                        person.id(), place, arrangements.of(person.id(), place).in(Columns.parse(columns))));
    }
}
