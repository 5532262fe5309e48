package app.schublade.web.desk;

import app.schublade.store.Account;
import app.schublade.store.ListQuery;
import app.schublade.store.ListRow;
import app.schublade.store.MessageStore;
import app.schublade.web.frame.Dates;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Person;
import app.schublade.web.reader.Sheet;
import app.schublade.web.reader.SheetMaker;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.server.ResponseStatusException;

/** The desk's pages: a whole one, or only the rows of its list. */
@Controller
class DeskController {
    private static final int PAGE = 50;
    private static final int MAX_ROWS = 1000;

    private final Frame frame;
    private final MessageStore messages;
    private final SheetMaker sheets;
    private final Dates dates;

    DeskController(Frame frame, MessageStore messages, SheetMaker sheets, Dates dates) {
        this.frame = frame;
        this.messages = messages;
        this.sheets = sheets;
        this.dates = dates;
    }

    /** What stands in the address besides the place. */
    record Wish(
            @Nullable String account,
            @Nullable String unread,
            @Nullable String flagged,
            @Nullable String files,
            @Nullable Long open,
            @Nullable String after,
            @Nullable Integer rows) {

        DeskAddress at(String path, @Nullable String words) {
            return new DeskAddress(path, account, unread != null, flagged != null, files != null, words);
        }
    }

    @GetMapping("/")
    String home() {
        return "redirect:/mail/inbox";
    }

    @GetMapping("/mail/inbox")
    String inbox(
            @AuthenticationPrincipal Person person,
            Wish wish,
            @RequestHeader(name = "HX-Target", required = false) String target,
            Model model) {
        DeskAddress address = wish.at("/mail/inbox", null);
        Frame.View view = frame.view(person, address.path(), wish.account());
        return show(person, wish, address, view, Spot.of(view.inbox()), target, model);
    }

    @GetMapping("/mail/folder/{id}")
    String folder(
            @AuthenticationPrincipal Person person,
            @PathVariable long id,
            Wish wish,
            @RequestHeader(name = "HX-Target", required = false) String target,
            Model model) {
        DeskAddress address = wish.at("/mail/folder/" + id, null);
        Frame.View view = frame.view(person, address.path(), wish.account());
        Spot spot = view.places().folder(id).map(Spot::of).orElseThrow(DeskController::gone);
        return show(person, wish, address, view, spot, target, model);
    }

    @GetMapping("/mail/label/{id}")
    String label(
            @AuthenticationPrincipal Person person,
            @PathVariable long id,
            Wish wish,
            @RequestHeader(name = "HX-Target", required = false) String target,
            Model model) {
        DeskAddress address = wish.at("/mail/label/" + id, null);
        Frame.View view = frame.view(person, address.path(), wish.account());
        Spot spot = view.places().label(id).map(Spot::of).orElseThrow(DeskController::gone);
        return show(person, wish, address, view, spot, target, model);
    }

    @GetMapping("/mail/flagged")
    String flagged(
            @AuthenticationPrincipal Person person,
            Wish wish,
            @RequestHeader(name = "HX-Target", required = false) String target,
            Model model) {
        DeskAddress address = wish.at("/mail/flagged", null);
        Frame.View view = frame.view(person, address.path(), wish.account());
        return show(person, wish, address, view, Spot.flagged(), target, model);
    }

    @GetMapping("/mail/find")
    String find(
            @AuthenticationPrincipal Person person,
            @RequestParam(defaultValue = "") String words,
            Wish wish,
            @RequestHeader(name = "HX-Target", required = false) String target,
            Model model) {
        if (words.isBlank()) {
            return "redirect:/mail/inbox";
        }
        String wanted = words.strip().substring(0, Math.min(words.strip().length(), 200));
        DeskAddress address = wish.at("/mail/find", wanted);
        Frame.View view = frame.view(person, address.everywhere(), wish.account());
        return show(person, wish, address, view, Spot.found(wanted), target, model);
    }

    private static ResponseStatusException gone() {
        return new ResponseStatusException(HttpStatus.NOT_FOUND, "There is no such place; it may have been removed.");
    }

    private String show(
            Person person,
            Wish wish,
            DeskAddress address,
            Frame.View view,
            Spot spot,
            @Nullable String target,
            Model model) {
        addRows(person, wish, address, view, spot, model);
        model.addAttribute("address", address);
        model.addAttribute("view", view);
        model.addAttribute("spot", spot);
        if ("rows".equals(target) || "more".equals(target)) {
            return "rows".equals(target) ? "desk/rows :: rowsAndFigures" : "desk/rows :: items";
        }
        Optional<Sheet> sheet = Optional.ofNullable(wish.open()).flatMap(id -> sheets.make(person, id));
        model.addAttribute("sheet", sheet.orElse(null));
        model.addAttribute("slots", sheets.slots(person, sheet.orElse(null), spot.folder()));
        return "desk/page";
    }

    private void addRows(Person person, Wish wish, DeskAddress address, Frame.View view, Spot spot, Model model) {
        ListQuery.Cursor after = ListQuery.Cursor.parse(wish.after());
        int wanted = Math.max(PAGE, Math.min(MAX_ROWS, wish.rows() == null ? PAGE : wish.rows()));
        Account account = view.account();
        List<ListRow> found = messages.page(
                person.id(),
                new ListQuery(
                        spot.place(),
                        account == null ? null : account.id(),
                        address.unread(),
                        address.flagged(),
                        address.files(),
                        after,
                        wanted + 1));
        List<ListRow> shown = found.subList(0, Math.min(wanted, found.size()));
        model.addAttribute("rows", rows(shown, view, spot, after));
        model.addAttribute(
                "more",
                found.size() > wanted
                        ? address.after(shown.get(wanted - 1).cursor().toString())
                        : null);
    }

    private List<RowView> rows(List<ListRow> shown, Frame.View view, Spot spot, ListQuery.@Nullable Cursor after) {
        Map<Long, Account> accounts = view.chips().stream()
                .map(Frame.Chip::account)
                .collect(Collectors.toMap(Account::id, account -> account));
        RowView.Maker maker = new RowView.Maker(dates, accounts, view.places(), spot.folder() != null);
        String heading = after == null ? null : dates.heading(after.received());
        List<RowView> rows = new ArrayList<>();
        for (ListRow row : shown) {
            rows.add(maker.make(row, heading));
            heading = dates.heading(row.received());
        }
        return rows;
    }
}
