package app.schublade.standin.world;

import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;

/** Draws from lists so that each of a list comes once before any of it comes again. */
final class Deck {
    private final Random random;
    private final Map<String, List<Integer>> left = new HashMap<>();

    Deck(Random random) {
        this.random = random;
    }

    Random random() {
        return random;
    }

    <T> T one(String name, List<T> list) {
        List<Integer> cards = left.computeIfAbsent(name, key -> new ArrayList<>());
        if (cards.isEmpty()) {
            for (int i = 0; i < list.size(); i++) {
                cards.add(i);
            }
            Collections.shuffle(cards, random);
        }
        return list.get(cards.remove(cards.size() - 1));
    }

    static String any(String[] list, Random random) {
        return list[random.nextInt(list.length)];
    }
}
