package app.schublade.web.record;

import app.schublade.store.account.Account;
import app.schublade.store.account.AccountStore;
import app.schublade.store.act.ActOutcome;
import app.schublade.store.filing.RecordStore;
import app.schublade.store.filing.RecordStore.DoneByRule;
import app.schublade.store.filing.RecordStore.RecordFilter;
import app.schublade.store.filing.RecordStore.RecordLine;
import app.schublade.store.filing.RecordStore.RecordedBy;
import app.schublade.store.filing.UndoStore;
import app.schublade.store.rule.RuleStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Dates;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Frame.View;
import app.schublade.web.frame.Notice;
import jakarta.servlet.http.HttpServletRequest;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.format.annotation.DateTimeFormat;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import org.springframework.web.util.UriComponentsBuilder;

/** What was filed, by rule or by hand; each line can be put right. */
@Controller
@RequestMapping("/record")
class RecordController {
    private static final int SHOWN = 100;

    private final Frame frame;
    private final RecordStore records;
    private final RuleStore rules;
    private final AccountStore accounts;
    private final UndoStore undo;
    private final Dates dates;

    RecordController(
            Frame frame, RecordStore records, RuleStore rules, AccountStore accounts, UndoStore undo, Dates dates) {
        this.frame = frame;
        this.records = records;
        this.rules = rules;
        this.accounts = accounts;
        this.undo = undo;
        this.dates = dates;
    }

    /** Without a target the whole page; with one only its lines. */
    @GetMapping
    String page(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam(defaultValue = "ALL") RecordedBy by,
            @RequestParam(required = false) @Nullable Long rule,
            @RequestParam(required = false) @Nullable Long folder,
            @RequestParam(required = false) @Nullable Long account,
            @RequestParam(required = false) @DateTimeFormat(iso = DateTimeFormat.ISO.DATE) @Nullable LocalDate day,
            @RequestParam(defaultValue = "0") long before,
            @RequestHeader(name = "HX-Target", required = false) @Nullable String target,
            Model model) {
        RecordFilter filter = new RecordFilter(by, rule, folder, account, day);
        View view = frame.view(person, "/record", null);
        Map<Long, Account> known = known(person);
        List<RecordLine> lines = records.lines(person.id(), filter, before, SHOWN + 1);
        List<RecordLine> shown = lines.subList(0, Math.min(SHOWN, lines.size()));
        model.addAttribute("view", view);
        model.addAttribute("filter", filter);
        model.addAttribute("accounts", known.values());
        model.addAttribute("rules", rules.all(person.id()));
        model.addAttribute("days", RecordDay.of(shown, view.places(), known, dates));
        model.addAttribute("here", address(filter, before));
        model.addAttribute("latest", address(filter, 0));
        model.addAttribute("isLatest", before == 0);
        model.addAttribute(
                "older",
                lines.size() > SHOWN ? address(filter, shown.get(SHOWN - 1).id()) : null);
        return "record".equals(target) ? "record/lines :: record" : "record/page";
    }

    /** What one rule did with mail as it came, message by message: for a part of another page. */
    @GetMapping("/done")
    String done(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam(required = false) @Nullable Long rule,
            @RequestParam(defaultValue = "") String name,
            @RequestParam(required = false) @Nullable Long folder,
            @RequestParam Instant since,
            @RequestHeader(name = "HX-Target", defaultValue = "done") String part,
            HttpServletRequest request,
            Model model) {
        model.addAttribute("part", part);
        model.addAttribute("here", request.getRequestURI() + "?" + request.getQueryString());
        Map<Long, Account> known = known(person);
        List<RecordLine> lines = records.lines(person.id(), new DoneByRule(rule, name, folder, since), SHOWN);
        model.addAttribute("days", RecordDay.of(lines, frame.known(person, null).places(), known, dates));
        return "record/lines :: done";
    }

    private Map<Long, Account> known(CurrentUser person) {
        return accounts.of(person.id()).stream().collect(Collectors.toMap(Account::id, Function.identity()));
    }

    private static String address(RecordFilter filter, long before) {
        UriComponentsBuilder address = UriComponentsBuilder.fromPath("/record");
        if (filter.by() != RecordedBy.ALL) {
            address.queryParam("by", filter.by());
        }
        parameter(address, "rule", filter.rule());
        parameter(address, "folder", filter.folder());
        parameter(address, "account", filter.account());
        parameter(address, "day", filter.day());
        parameter(address, "before", before == 0 ? null : before);
        return address.toUriString();
    }

    private static void parameter(UriComponentsBuilder address, String name, @Nullable Object value) {
        if (value != null) {
            address.queryParam(name, value);
        }
    }

    /** Takes back what a rule did to one message, and leads to the narrower rule that would have spared it. */
    @PostMapping("/{batch}/{message}/spare")
    String spare(
            @AuthenticationPrincipal CurrentUser person,
            @PathVariable long batch,
            @PathVariable long message,
            @RequestParam long rule,
            RedirectAttributes redirect) {
        ActOutcome outcome = undo.of(person.id(), message, batch);
        redirect.addFlashAttribute(
                "notice",
                Notice.told(
                        outcome.changed().isEmpty()
                                ? "The message was changed since and stays as it is."
                                : "The message is as it was before the rule."));
        return "redirect:/rules/" + rule + "?spare=" + message;
    }

    /** What the user did last, each to be taken back by itself. */
    @GetMapping("/acts")
    String acts(@AuthenticationPrincipal CurrentUser person, Model model) {
        model.addAttribute("acts", records.acts(person.id(), SHOWN));
        return "record/acts :: acts";
    }
}
