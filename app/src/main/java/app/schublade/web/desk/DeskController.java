package app.schublade.web.desk;

import app.schublade.store.HabitStore;
import app.schublade.store.ListQuery;
import app.schublade.store.ListStore;
import app.schublade.web.frame.Dates;
import app.schublade.web.frame.Person;
import app.schublade.web.reader.Sheet;
import app.schublade.web.reader.SheetMaker;
import jakarta.servlet.http.HttpServletRequest;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;

/** The desk's pages: a whole one, or only the rows of its list. */
@Controller
class DeskController {
    private static final int PAGE = 50;
    private static final int MAX_ROWS = 1000;
    /** A longer conversation shows its newest messages. */
    private static final int MAX_CONVERSATION = 200;

    private final Listings listings;
    private final ListStore lists;
    private final RowMaker rowMaker;
    private final SheetMaker sheets;
    private final Dates dates;
    private final HabitStore habits;

    DeskController(
            Listings listings, ListStore lists, RowMaker rowMaker, SheetMaker sheets, Dates dates, HabitStore habits) {
        this.listings = listings;
        this.lists = lists;
        this.rowMaker = rowMaker;
        this.sheets = sheets;
        this.dates = dates;
        this.habits = habits;
    }

    /** What stands in the address besides the place; under is the heading of the row before. */
    record Wish(
            @Nullable Long open,
            @Nullable String after,
            @Nullable String under,
            @Nullable Integer rows) {}

    @GetMapping("/")
    String home(@AuthenticationPrincipal Person person) {
        return "redirect:/mail/" + habits.of(person.id()).opens();
    }

    @GetMapping({
        "/mail/inbox",
        "/mail/flagged",
        "/mail/tickler",
        "/mail/find",
        "/mail/folder/{id}",
        "/mail/label/{id}",
        "/mail/tray/{id}"
    })
    String place(
            @AuthenticationPrincipal Person person,
            HttpServletRequest request,
            @RequestParam Map<String, String> parameters,
            Wish wish,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            Model model) {
        DeskAddress address = DeskAddress.of(request.getRequestURI(), parameters);
        if (address.words() != null && address.words().isEmpty()) {
            return "redirect:/mail/inbox";
        }
        Listing listing = listings.at(person, address);
        model.addAttribute("listing", listing);
        model.addAttribute("address", address);
        model.addAttribute("spot", listing.spot());
        if ("pills".equals(target)) {
            ListStore.Figures counted = lists.figures(person.id(), listing.query(null, 1));
            model.addAttribute("counted", counted);
            model.addAttribute("figures", listing.figures(counted));
            return "desk/rows :: pillsAndFigures";
        }
        addRows(person, wish, listing, model);
        if ("rows".equals(target) || "more".equals(target)) {
            return "rows".equals(target) ? "desk/rows :: rowsAndFigures" : "desk/rows :: items";
        }
        model.addAttribute("view", listings.around(person, listing));
        Optional<Sheet> sheet = Optional.ofNullable(wish.open()).flatMap(id -> sheets.make(person, id));
        model.addAttribute("sheet", sheet.orElse(null));
        model.addAttribute(
                "slots", sheets.slots(person, sheet.orElse(null), listing.spot().folder()));
        model.addAttribute("days", dates.dueChoices());
        model.addAttribute("counted", null);
        return "desk/page";
    }

    private void addRows(Person person, Wish wish, Listing listing, Model model) {
        int wanted = Math.max(PAGE, Math.min(MAX_ROWS, wish.rows() == null ? PAGE : wish.rows()));
        ListQuery query = listing.query(ListQuery.Cursor.parse(wish.after()), wanted + 1);
        List<ListStore.Line> found = lists.page(person.id(), listing.ranks(), query);
        List<RowView> rows = rowMaker.rows(found.subList(0, Math.min(wanted, found.size())), listing, wish.under());
        String more = found.size() > wanted
                ? listing.address()
                        .after(
                                found.get(wanted - 1).cursor().toString(),
                                rows.get(wanted - 1).group())
                : null;
        model.addAttribute("empty", rows.isEmpty());
        model.addAttribute("items", RowWriter.write(rows, listing, more));
    }

    /** The other messages of the conversation that a row stands for, as rows below it. */
    @GetMapping("/mail/conversation/{row}")
    String conversation(
            @AuthenticationPrincipal Person person, @PathVariable long row, @RequestParam String here, Model model) {
        Listing listing = listings.at(person, DeskAddress.parse(here));
        List<ListStore.Line> all = lists.conversationOf(person.id(), row, MAX_CONVERSATION);
        List<RowView> others = rowMaker.inner(
                all.stream().filter(line -> line.row().id() != row).toList(), listing);
        model.addAttribute("items", RowWriter.write(others, listing, null));
        return "desk/rows :: items";
    }
}
