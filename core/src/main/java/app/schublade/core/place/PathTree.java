package app.schublade.core.place;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * A flat collection of things with paths, as a tree. A thing whose parent is missing stands at the top.
 *
 * @param <T> what stands at each place
 */
public record PathTree<T>(List<Node<T>> roots) {

    /** One place and what lies inside it. */
    public record Node<T>(T item, FolderPath path, List<Node<T>> children) {
        public boolean hasChildren() {
            return !children.isEmpty();
        }
    }

    /** Builds the tree; siblings stand in the order of their names. */
    public static <T> PathTree<T> of(Collection<T> items, Function<T, FolderPath> path) {
        return of(items, path, Comparator.comparing(path));
    }

    /**
     * Builds the tree in one pass over the sorted paths.
     *
     * @param siblings the order of those that lie in the same place; names decide where it leaves it open
     */
    public static <T> PathTree<T> of(
            Collection<T> items, Function<T, FolderPath> path, Comparator<? super T> siblings) {
        List<T> sorted = new ArrayList<>(items);
        sorted.sort(Comparator.comparing(path));
        Map<FolderPath, Node<T>> placed = new LinkedHashMap<>();
        List<Node<T>> roots = new ArrayList<>();
        for (T item : sorted) {
            Node<T> node = new Node<>(item, path.apply(item), new ArrayList<>());
            placed.put(node.path(), node);
            Node<T> parent = parentOf(node, placed);
            (parent == null ? roots : parent.children()).add(node);
        }
        Comparator<Node<T>> order = Comparator.comparing(Node::item, siblings);
        roots.sort(order);
        placed.values().forEach(node -> node.children().sort(order));
        return new PathTree<>(roots);
    }

    /** The same tree with what is wanted, and with what it lies in. */
    public PathTree<T> keep(Predicate<? super T> wanted) {
        return new PathTree<>(keep(roots, wanted));
    }

    private static <T> List<Node<T>> keep(List<Node<T>> nodes, Predicate<? super T> wanted) {
        return nodes.stream()
                .map(node -> new Node<>(node.item(), node.path(), keep(node.children(), wanted)))
                .filter(node -> node.hasChildren() || wanted.test(node.item()))
                .toList();
    }

    /** What lies in the same place, from top to bottom; null for the top of the tree. */
    public List<T> siblings(@Nullable FolderPath parent) {
        List<Node<T>> level = parent == null
                ? roots
                : nodes(roots)
                        .filter(node -> node.path().compareTo(parent) == 0)
                        .findFirst()
                        .map(Node::children)
                        .orElse(List.of());
        return level.stream().map(Node::item).toList();
    }

    private static <T> Stream<Node<T>> nodes(List<Node<T>> level) {
        return level.stream().flatMap(node -> Stream.concat(Stream.of(node), nodes(node.children())));
    }

    /** All items as they are read from top to bottom. */
    public Stream<T> inOrder() {
        return nodes(roots).map(Node::item);
    }

    private static <T> @Nullable Node<T> parentOf(Node<T> node, Map<FolderPath, Node<T>> placed) {
        FolderPath parent = node.path().parent();
        return parent == null ? null : placed.get(parent);
    }
}
