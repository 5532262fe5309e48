package app.schublade.web.people;

import app.schublade.core.filing.Rule;
import app.schublade.core.message.Address;
import app.schublade.core.message.People;
import app.schublade.store.message.CorrespondenceStore;
import app.schublade.store.message.CorrespondenceStore.Correspondence;
import app.schublade.store.message.CorrespondenceStore.Share;
import app.schublade.store.place.PlaceStore;
import app.schublade.store.place.Places;
import app.schublade.store.rule.RuleStore;
import app.schublade.store.user.PeopleStore;
import app.schublade.web.frame.CurrentUser;
import java.util.List;
import java.util.Optional;
import java.util.function.LongFunction;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** Who somebody is: what there is of the mail with this person, and what can be done from there. */
@Controller
class PersonCardController {
    private final CorrespondenceStore mail;
    private final PeopleStore people;
    private final PlaceStore places;
    private final RuleStore rules;

    PersonCardController(CorrespondenceStore mail, PeopleStore people, PlaceStore places, RuleStore rules) {
        this.mail = mail;
        this.people = people;
        this.places = places;
        this.rules = rules;
    }

    /** Something that has some of the messages. */
    record Holder(String name, String address, int messages) {}

    @GetMapping("/people/card")
    String card(@AuthenticationPrincipal CurrentUser person, @RequestParam String address, Model model) {
        String key = Address.key(address);
        Correspondence all = mail.with(person.id(), key);
        Places known = places.of(person.id(), null);
        People mine = people.of(person.id());
        Address shown = new Address(all.name(), key);
        model.addAttribute("address", shown);
        model.addAttribute("mail", all);
        model.addAttribute("key", mine.isKey(shown));
        model.addAttribute("groups", mine.groupsOf(shown));
        model.addAttribute("others", people.namesakes(person.id(), shown));
        model.addAttribute(
                "folders",
                holders(
                        all.folders(),
                        id -> known.folder(id).map(one -> new Holder(one.path().shown(), "/mail/folder/" + id, 0))));
        model.addAttribute(
                "labels",
                holders(
                        all.labels(),
                        id -> known.label(id).map(one -> new Holder(one.path().shown(), "/mail/label/" + id, 0))));
        model.addAttribute(
                "rules",
                holders(
                        all.rules(),
                        id -> rules.byId(person.id(), id)
                                .map(Rule::name)
                                .map(name -> new Holder(name, "/rules/" + id, 0))));
        return "people/card";
    }

    private static List<Holder> holders(List<Share> shares, LongFunction<Optional<Holder>> named) {
        return shares.stream()
                .flatMap(share ->
                        named
                                .apply(share.id())
                                .map(one -> new Holder(one.name(), one.address(), share.messages()))
                                .stream())
                .toList();
    }
}
