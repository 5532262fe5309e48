package app.schublade.core.filing;

import app.schublade.core.message.Message;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Tells which rules of a book a message can concern, at a cost that hardly grows with their number: senders, domains,
 * recipients, lists and accounts are looked up, and one pass over the subject and one over the body find all the rules'
 * words together. Only rules without anything that can be looked up are always among the candidates.
 */
final class RuleIndex {
    private static final int[] NONE = {};

    private final long[] always;
    private final Map<String, int[]> senders;
    private final Map<String, int[]> domains;
    private final Map<String, int[]> recipients;
    private final Map<String, int[]> conversations;
    private final Map<String, int[]> lists;
    private final Map<String, int[]> accounts;
    private final Phrases subject;
    private final Phrases body;

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
        senders = values(found, Trigger.TriggerKind.SENDER);
        domains = values(found, Trigger.TriggerKind.DOMAIN);
        recipients = values(found, Trigger.TriggerKind.RECIPIENT);
        conversations = values(found, Trigger.TriggerKind.CONVERSATION);
        lists = values(found, Trigger.TriggerKind.LIST);
        accounts = values(found, Trigger.TriggerKind.ACCOUNT);
        subject = new Phrases(values(found, Trigger.TriggerKind.SUBJECT));
        body = new Phrases(values(found, Trigger.TriggerKind.BODY));
    }

    private static Map<String, int[]> values(Map<Trigger.TriggerKey, List<Integer>> found, Trigger.TriggerKind kind) {
        Map<String, int[]> values = new HashMap<>();
        found.forEach((key, rules) -> {
            if (key.kind() == kind) {
                values.put(key.value(), numbers(rules));
            }
        });
        return values;
    }

    private static int[] numbers(List<Integer> numbers) {
        return numbers.stream().mapToInt(Integer::intValue).toArray();
    }

    /** The places in the book, ascending, of all rules that may take the message, as bits. */
    long[] candidates(RuleInput matter) {
        long[] bits = always.clone();
        Message message = matter.message();
        mark(bits, senders, message.from().key());
        String domain = message.from().domain();
        while (!domain.isEmpty()) {
            mark(bits, domains, domain);
            int dot = domain.indexOf('.');
            domain = dot < 0 ? "" : domain.substring(dot + 1);
        }
        matter.addresses().forEach(address -> mark(bits, recipients, address));
        message.thread().forEach(id -> mark(bits, conversations, id));
        String list = message.listId();
        if (list != null) {
            mark(bits, lists, list);
        }
        mark(bits, accounts, String.valueOf(message.account()));
        subject.mark(bits, matter.subject());
        body.mark(bits, matter.body());
        return bits;
    }

    private static void mark(long[] bits, Map<String, int[]> rules, String value) {
        for (int number : rules.getOrDefault(value, NONE)) {
            mark(bits, number);
        }
    }

    private static void mark(long[] bits, int number) {
        bits[number >> 6] |= 1L << number;
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
                    for (int number : rules.get(phrase)) {
                        RuleIndex.mark(bits, number);
                    }
                });
            }
        }
    }
}
