package app.schublade.core.filing;

import app.schublade.core.message.Address;
import app.schublade.core.message.Message;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Collection;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Tells which rules of a book a message can concern, at a cost that hardly grows with their number: addresses, lists, accounts
 * and what a message is are looked up, and one pass over each of its texts finds all the rules' words together. Only rules
 * without anything that can be looked up are always among the candidates.
 */
final class RuleIndex {
    private static final int[] NONE = {};

    private final long[] always;
    private final Map<Trigger.TriggerKind, Map<String, int[]>> values = new EnumMap<>(Trigger.TriggerKind.class);
    private final Phrases subject;
    private final Phrases body;
    private final Phrases senderName;
    private final Map<String, Phrases> headers = new HashMap<>();

    RuleIndex(List<Rule> rules) {
        BitSet open = new BitSet(rules.size());
        Map<Trigger.TriggerKey, List<Integer>> found = new LinkedHashMap<>();
        for (int i = 0; i < rules.size(); i++) {
            Rule rule = rules.get(i);
            if (!rule.on() || rule.when().isEmpty()) {
                continue;
            }
            Trigger trigger = Trigger.ofAll(rule.when());
            if (trigger == null) {
                open.set(i);
                continue;
            }
            for (Trigger.TriggerKey key : trigger.keys()) {
                found.computeIfAbsent(key, one -> new ArrayList<>(1)).add(i);
            }
        }
        always = Arrays.copyOf(open.toLongArray(), (rules.size() + 63) / 64);
        found.forEach((key, numbers) -> values.computeIfAbsent(key.kind(), kind -> new HashMap<>())
                .put(key.value(), numbers.stream().mapToInt(Integer::intValue).toArray()));
        subject = new Phrases(take(Trigger.TriggerKind.SUBJECT));
        body = new Phrases(take(Trigger.TriggerKind.BODY));
        senderName = new Phrases(take(Trigger.TriggerKind.SENDER_NAME));
        Map<String, Map<String, int[]>> fields = new HashMap<>();
        take(Trigger.TriggerKind.HEADER).forEach((value, numbers) -> {
            int colon = value.indexOf(':');
            fields.computeIfAbsent(value.substring(0, colon), name -> new HashMap<>())
                    .put(value.substring(colon + 1), numbers);
        });
        fields.forEach((name, phrases) -> headers.put(name, new Phrases(phrases)));
    }

    private Map<String, int[]> take(Trigger.TriggerKind kind) {
        Map<String, int[]> taken = values.remove(kind);
        return taken == null ? Map.of() : taken;
    }

    /** The places in the book, ascending, of all rules that may take the message, as bits. */
    long[] candidates(RuleInput matter) {
        long[] bits = always.clone();
        Message message = matter.message();
        mark(bits, Trigger.TriggerKind.SENDER, message.from().key());
        markDomains(bits, Trigger.TriggerKind.DOMAIN, message.from());
        for (Address answered : message.replyTo()) {
            mark(bits, Trigger.TriggerKind.REPLY_ADDRESS, answered.key());
            markDomains(bits, Trigger.TriggerKind.REPLY_DOMAIN, answered);
        }
        mark(bits, Trigger.TriggerKind.RECIPIENT, matter.addresses());
        mark(bits, Trigger.TriggerKind.CONVERSATION, message.thread());
        mark(bits, Trigger.TriggerKind.GROUP, message.groups());
        String list = message.listId();
        if (list != null) {
            mark(bits, Trigger.TriggerKind.LIST, list);
        }
        if (values.containsKey(Trigger.TriggerKind.TAG) || values.containsKey(Trigger.TriggerKind.RECIPIENT_DOMAIN)) {
            matter.addresses().forEach(address -> markParts(bits, address));
        }
        if (values.containsKey(Trigger.TriggerKind.TRAIT)) {
            message.traits().forEach(trait -> mark(bits, Trigger.TriggerKind.TRAIT, trait.name()));
        }
        if (values.containsKey(Trigger.TriggerKind.ATTACHED)) {
            mark(bits, Trigger.TriggerKind.ATTACHED, Attached.keys(message.attachments()));
        }
        if (values.containsKey(Trigger.TriggerKind.ACCOUNT)) {
            mark(bits, Trigger.TriggerKind.ACCOUNT, String.valueOf(message.account()));
        }
        subject.mark(bits, matter.subject());
        body.mark(bits, matter.body());
        senderName.mark(bits, matter.senderName());
        headers.forEach((name, phrases) -> matter.header(name).forEach(text -> phrases.mark(bits, text)));
        return bits;
    }

    /** The domain of an address, and those that it lies in. */
    private void markDomains(long[] bits, Trigger.TriggerKind kind, Address address) {
        String domain = address.domain();
        while (!domain.isEmpty()) {
            mark(bits, kind, domain);
            int dot = domain.indexOf('.');
            domain = dot < 0 ? "" : domain.substring(dot + 1);
        }
    }

    private void markParts(long[] bits, String address) {
        int at = address.lastIndexOf('@');
        int plus = address.indexOf('+');
        mark(bits, Trigger.TriggerKind.RECIPIENT_DOMAIN, address.substring(at + 1));
        if (plus >= 0 && plus < at) {
            mark(bits, Trigger.TriggerKind.TAG, address.substring(plus, at));
        }
    }

    private void mark(long[] bits, Trigger.TriggerKind kind, Collection<String> all) {
        Map<String, int[]> rules = values.get(kind);
        if (rules != null) {
            all.forEach(value -> mark(bits, rules.getOrDefault(value, NONE)));
        }
    }

    private void mark(long[] bits, Trigger.TriggerKind kind, String value) {
        Map<String, int[]> rules = values.get(kind);
        if (rules != null) {
            mark(bits, rules.getOrDefault(value, NONE));
        }
    }

    private static void mark(long[] bits, int[] numbers) {
        for (int number : numbers) {
            bits[number >> 6] |= 1L << number;
        }
    }

    /** Phrases with the rules that look for them. */
    private static final class Phrases {
        private final List<String> phrases;
        private final List<int[]> rules;
        private final PhraseScanner scanner;

        Phrases(Map<String, int[]> rulesByPhrase) {
            phrases = List.copyOf(rulesByPhrase.keySet());
            rules = List.copyOf(rulesByPhrase.values());
            scanner = new PhraseScanner(phrases);
        }

        void mark(long[] bits, RuleInput.Folded text) {
            if (!rules.isEmpty()) {
                scanner.scan(text.bytes(), phrase -> {
                    text.found(phrases.get(phrase));
                    RuleIndex.mark(bits, rules.get(phrase));
                });
            }
        }
    }
}
