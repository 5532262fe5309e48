package app.schublade.web.people;

import app.schublade.core.filing.Rule;
import app.schublade.core.format.MailWriter;
import app.schublade.core.message.People;
import app.schublade.store.act.Acts;
import app.schublade.store.rule.RuleStore;
import app.schublade.store.user.PeopleStore;
import app.schublade.web.frame.CurrentUser;
import app.schublade.web.frame.Frame;
import app.schublade.web.frame.Notice;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** Names key persons and makes groups, on a page of their own or at a message. */
@Controller
@RequestMapping("/people")
class PeopleController {
    /** Letters that are enough to propose somebody. */
    private static final int FEW = 2;

    private static final int PROPOSED = 8;

    private final Acts acts;
    private final Frame frame;
    private final PeopleStore people;
    private final RuleStore rules;
    private final KeyPlace keyPlace;

    PeopleController(Acts acts, Frame frame, PeopleStore people, RuleStore rules, KeyPlace keyPlace) {
        this.keyPlace = keyPlace;
        this.acts = acts;
        this.frame = frame;
        this.people = people;
        this.rules = rules;
    }

    @GetMapping
    String page(@AuthenticationPrincipal CurrentUser person, Model model) {
        Map<String, List<String>> groups = people.groups(person.id());
        List<Rule> all = rules.all(person.id());
        Map<String, List<String>> named = new TreeMap<>();
        groups.keySet()
                .forEach(group -> named.put(
                        group,
                        all.stream()
                                .filter(rule -> rule.names(group))
                                .map(Rule::name)
                                .toList()));
        model.addAttribute("view", frame.view(person, "/people", null));
        model.addAttribute("keyPersons", people.keyPersons(person.id()));
        model.addAttribute("groups", groups);
        model.addAttribute("named", named);
        return "people/page";
    }

    /**
     * People by a few letters of their names or addresses: those that are being typed.
     *
     * @param typed addresses with commas between, the last one incomplete
     * @param named whether names go with the addresses, as in a message
     */
    @GetMapping("/like")
    @ResponseBody
    List<String> like(
            @AuthenticationPrincipal CurrentUser person, @RequestParam String typed, @RequestParam boolean named) {
        int last = typed.lastIndexOf(',') + 1;
        String before = last == 0 ? "" : typed.substring(0, last) + " ";
        String letters = typed.substring(last).strip();
        if (letters.length() < FEW) {
            return List.of();
        }
        Stream<String> groups = named ? groupsLike(person, letters) : Stream.empty();
        Stream<String> persons = people.like(person.id(), letters, PROPOSED).stream()
                .map(one -> named ? MailWriter.typed(List.of(one)) : one.email());
        return Stream.concat(groups, persons).map(before::concat).toList();
    }

    /** Groups by the beginning of their name, with whom of them one can write to (RFC 5322, section 3.4). */
    private Stream<String> groupsLike(CurrentUser person, String letters) {
        String start = letters.toLowerCase(Locale.ROOT);
        return people.groups(person.id()).entrySet().stream()
                .filter(group -> group.getKey().toLowerCase(Locale.ROOT).startsWith(start))
                .map(group -> Map.entry(
                        group.getKey().replaceAll("[\"\\\\:;,<>]", " "),
                        group.getValue().stream()
                                .filter(value -> value.contains("@"))
                                .collect(Collectors.joining(", "))))
                .filter(group -> !group.getValue().isEmpty())
                .limit(PROPOSED)
                .map(group -> "%s: %s;".formatted(group.getKey(), group.getValue()));
    }

    /** From the page. */
    @PostMapping("/key")
    String key(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam String value,
            @RequestParam boolean on,
            RedirectAttributes redirect) {
        return back(redirect, mark(person, value, on));
    }

    /** From the sheet of a message. */
    @PostMapping("/key/here")
    String keyHere(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam String value,
            @RequestParam boolean on,
            Model model) {
        model.addAttribute("notice", Notice.done(mark(person, value, on)));
        return "frame/parts :: noticeAlone";
    }

    private String mark(CurrentUser person, String typed, boolean on) {
        String value = People.value(typed);
        boolean first = on && people.keyPersons(person.id()).isEmpty() && keyPlace.isWanted(person);
        String told = on
                ? "%s is now a key person%s".formatted(value, first ? "; their mail has a place in the cabinet" : "")
                : "%s is no longer a key person".formatted(value);
        acts.record(person.id(), told, () -> {
            people.markKey(person.id(), value, on);
            if (first) {
                keyPlace.make(person);
            }
        });
        return told;
    }

    @PostMapping("/join")
    String join(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam String group,
            @RequestParam String value,
            RedirectAttributes redirect) {
        String member = People.value(value);
        String told = "%s is now in the group %s".formatted(member, group.strip());
        acts.record(person.id(), told, () -> people.join(person.id(), group.strip(), member));
        return back(redirect, told);
    }

    @PostMapping("/leave")
    String leave(
            @AuthenticationPrincipal CurrentUser person,
            @RequestParam String group,
            @RequestParam String value,
            RedirectAttributes redirect) {
        String told = "%s is no longer in the group %s".formatted(value, group);
        acts.record(person.id(), told, () -> people.leave(person.id(), group, value));
        return back(redirect, told);
    }

    @PostMapping("/dissolve")
    String dissolve(
            @AuthenticationPrincipal CurrentUser person, @RequestParam String group, RedirectAttributes redirect) {
        String told = "There is no longer a group %s".formatted(group);
        acts.record(person.id(), told, () -> people.dissolve(person.id(), group));
        return back(redirect, told);
    }

    private static String back(RedirectAttributes redirect, String told) {
        redirect.addFlashAttribute("notice", Notice.done(told));
        return "redirect:/people";
    }
}
