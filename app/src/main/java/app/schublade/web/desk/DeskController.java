package app.schublade.web.desk;

import app.schublade.core.place.SpecialUse;
import app.schublade.store.message.ListQuery;
import app.schublade.store.message.ListStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.reader.Sheet;
import app.schublade.web.reader.SheetMaker;
import app.schublade.web.reader.StripMaker;
import jakarta.servlet.http.HttpServletRequest;
import java.util.List;
import java.util.Map;
import java.util.Objects;
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
    private static final String INBOX = "/mail/inbox";
    private static final int PAGE = 50;
    private static final int MAX_ROWS = 1000;
    /** Where rows are put that stand before those that the page has. */
    private static final String EARLIER = "earlier";
    /** A longer conversation shows its newest messages. */
    private static final int MAX_CONVERSATION = 200;

    private final MessageLists listings;
    private final ListStore lists;
    private final RowMaker rowMaker;
    private final SheetMaker sheets;
    private final StripMaker strips;
    private final SearchPages searchPages;

    DeskController(
            MessageLists listings,
            ListStore lists,
            RowMaker rowMaker,
            SheetMaker sheets,
            StripMaker strips,
            SearchPages searchPages) {
        this.searchPages = searchPages;
        this.listings = listings;
        this.lists = lists;
        this.rowMaker = rowMaker;
        this.sheets = sheets;
        this.strips = strips;
    }

    /**
     * What stands in the address besides the place.
     *
     * @param after, under where the page before ended, and under which heading
     * @param first the number of the first row, from 0; in place of after
     * @param rows how many
     */
    record ListRequest(
            @Nullable Long open,
            @Nullable String after,
            @Nullable String under,
            @Nullable Integer first,
            @Nullable Integer rows) {
        ListQuery query(MessageList listing, int wanted) {
            return first == null
                    ? listing.query(ListQuery.Cursor.parse(after), wanted + 1)
                    : listing.query(null, wanted + 1).from(Math.max(0, first));
        }
    }

    @GetMapping({
        INBOX,
        "/mail/flagged",
        "/mail/done",
        "/mail/tickler",
        "/mail/find",
        "/mail/search/{id}",
        "/mail/folder/{id}",
        "/mail/label/{id}",
        "/mail/tray/{id}",
        "/mail/flag/{id}"
    })
    String place(
            @AuthenticationPrincipal CurrentUser person,
            HttpServletRequest request,
            @RequestParam Map<String, String> parameters,
            ListRequest wish,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            Model model) {
        DeskUrl address = DeskUrl.of(request.getRequestURI(), parameters);
        if (address.path().equals("/mail/find")
                && Objects.requireNonNullElse(address.words(), "").isEmpty()) {
            return "redirect:" + INBOX;
        }
        MessageList listing = listings.at(person, address);
        // One place, one address: what is kept by the address is the same then, however one came there.
        if (address.path()
                .equals("/mail/folder/"
                        + listing.known().places().special(SpecialUse.INBOX).id())) {
            String query = request.getQueryString();
            return "redirect:" + INBOX + (query == null ? "" : "?" + query);
        }
        model.addAttribute("listing", listing);
        model.addAttribute("address", address);
        model.addAttribute("spot", listing.spot());
        if ("pills".equals(target)) {
            ListStore.ListFigures counted = lists.figures(person.id(), listing.query(null, 1));
            model.addAttribute("counted", counted);
            model.addAttribute("figures", listing.figures(counted));
            return "desk/rows :: pillsAndFigures";
        }
        if ("facets".equals(target)) {
            searchPages.addFacets(person, listing, model);
            return "desk/found :: facetsAndTotal";
        }
        addRows(person, wish, listing, !EARLIER.equals(target), model);
        if ("rows".equals(target)) {
            return "desk/rows :: rowsAndFigures";
        }
        if ("more".equals(target) || EARLIER.equals(target)) {
            return "desk/rows :: items";
        }
        searchPages.addSearch(person, listing, model);
        model.addAttribute("view", listings.around(person, listing));
        Optional<Sheet> sheet = Optional.ofNullable(wish.open()).flatMap(id -> sheets.make(person, id));
        model.addAttribute("sheet", sheet.orElse(null));
        model.addAttribute(
                "slots", strips.slots(person, sheet.orElse(null), listing.spot().folder()));
        model.addAttribute("routines", strips.routines(person));
        model.addAttribute("days", strips.days(person));
        model.addAttribute("nextLook", strips.nextLook(person));
        model.addAttribute("counted", null);
        return "desk/page";
    }

    /** @param further whether those that follow are to be fetched when they come into sight */
    private void addRows(CurrentUser person, ListRequest wish, MessageList listing, boolean further, Model model) {
        int wanted = Math.max(1, Math.min(MAX_ROWS, wish.rows() == null ? PAGE : wish.rows()));
        ListQuery query = wish.query(listing, wanted);
        List<ListStore.ListLine> found = lists.page(person.id(), listing.ranks(), query);
        List<RowView> rows =
                rowMaker.rows(person, found.subList(0, Math.min(wanted, found.size())), listing, wish.under());
        String more = further && found.size() > wanted
                ? listing.address()
                        .after(
                                found.get(wanted - 1).cursor().toString(),
                                rows.get(wanted - 1).group())
                : null;
        model.addAttribute("empty", rows.isEmpty());
        model.addAttribute("rows", rows);
        model.addAttribute("more", more);
    }

    /** The other messages of the conversation that a row stands for, as rows below it. */
    @GetMapping("/mail/conversation/{row}")
    String conversation(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long row,
            @RequestParam String here,
            Model model) {
        MessageList listing = listings.at(person, DeskUrl.parse(here));
        List<ListStore.ListLine> all = lists.conversationOf(person.id(), row, MAX_CONVERSATION);
        List<RowView> others = rowMaker.inner(
                all.stream().filter(line -> line.row().id() != row).toList(), listing);
        model.addAttribute("rows", others);
        model.addAttribute("listing", listing);
        return "desk/rows :: items";
    }
}
