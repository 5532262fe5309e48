package app.schublade.web.frame;

import app.schublade.core.place.PathTree;
import app.schublade.store.account.Account;
import app.schublade.store.place.Places;
import java.nio.charset.StandardCharsets;
import org.springframework.web.util.UriUtils;

/** Writes the drawers of the cabinet, and the labels below them, as HTML: {@code <cabinet:drawers/>} in a template, and {@code <cabinet:tabs/>}. */
final class CabinetWriter {
    private final Markup out = new Markup();
    private final Frame.View view;
    private final String narrowed;

    private CabinetWriter(Frame.View view) {
        this.view = view;
        Account account = view.account();
        this.narrowed = account == null ? "" : "?account=" + UriUtils.encode(account.code(), StandardCharsets.UTF_8);
    }

    /** One drawer for each folder at the top. */
    static String drawers(Frame.View view, PathTree<Places.Folder> tree) {
        CabinetWriter writer = new CabinetWriter(view);
        for (PathTree.Node<Places.Folder> root : tree.roots()) {
            String address = address("folder", root.item().id());
            writer.out.open("div", view.isHere(address) ? "drawer in" : "drawer");
            writer.folder(root, root.path().shown());
            writer.out.close();
        }
        return writer.out.toString();
    }

    /** One line for each label, in each the list of those below it. */
    static String tabs(Frame.View view, PathTree<Places.Label> tree) {
        CabinetWriter writer = new CabinetWriter(view);
        tree.roots().forEach(root -> writer.label(root, root.path().shown()));
        return writer.out.toString();
    }

    /** @param name at the top of the tree with what it lies in, for that is not there */
    private void folder(PathTree.Node<Places.Folder> node, String name) {
        Places.Folder folder = node.item();
        out.open("div", folder.hidden() ? "front hidden-place" : "front");
        out.open("a").attribute("id", "place-" + folder.id()).attribute("data-folder", folder.id());
        out.attribute("data-own", "");
        place(address("folder", folder.id()), node);
        out.element("span", "name", name);
        plate(view.unreadOf(node));
        out.close();
        if (node.hasChildren()) {
            twist(folder, name);
        }
        out.close();
        if (node.hasChildren() && !folder.folded()) {
            out.open("ul");
            for (PathTree.Node<Places.Folder> child : node.children()) {
                out.open("li");
                folder(child, child.path().name());
                out.close();
            }
            out.close();
        }
    }

    private void twist(Places.Folder folder, String name) {
        out.open("button", "twist").attribute("type", "button").attribute("id", "twist-" + folder.id());
        out.attribute("data-posts", "/folders/%d/turn/folded?on=%b".formatted(folder.id(), !folder.folded()));
        out.attribute("aria-expanded", !folder.folded()).attribute("aria-label", "Folders in " + name);
        out.close();
    }

    private void label(PathTree.Node<Places.Label> node, String name) {
        Places.Label label = node.item();
        out.open("li").open("a", label.hidden() ? "lab hidden-place" : "lab");
        out.attribute("id", "label-" + label.id()).attribute("data-label", label.id());
        place(address("label", label.id()), node);
        out.element("i", "tab " + label.css(), null);
        out.element("span", "name", name);
        if (label.unread() > 0) {
            unread("count", label.unread());
        }
        out.close();
        if (node.hasChildren()) {
            out.open("ul");
            node.children().forEach(child -> label(child, child.path().name()));
            out.close();
        }
        out.close();
    }

    /** What the link to a folder and that to a label have in common. */
    private void place(String address, PathTree.Node<?> node) {
        out.attribute("href", address + narrowed).attribute("draggable", "true");
        out.attribute("aria-current", view.isHere(address) ? "page" : null);
        out.attribute("data-name", node.path().shown())
                .attribute("title", node.path().shown());
    }

    private void plate(int unread) {
        if (unread > 0) {
            unread("plate", unread);
        }
    }

    private void unread(String css, int unread) {
        String number = Markup.number(unread);
        out.open("span", css)
                .attribute("aria-label", number + " unread")
                .text(number)
                .close();
    }

    private static String address(String kind, long id) {
        return "/mail/%s/%d".formatted(kind, id);
    }
}
