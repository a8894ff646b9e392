package mandala.server.draft;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.core.authority.Authority;
import mandala.core.authority.RequiredRight;
import mandala.core.change.Change;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Thing;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.ResourceKey;
import mandala.document.ChangeText;
import mandala.document.ThingDocument;
import mandala.server.audit.AuditEvent;
import mandala.server.authorization.ResourcePath;
import mandala.server.model.RevisionCause;
import org.jspecify.annotations.Nullable;

/** The lines of the trail that tell what a revision changed, one for each thing. */
public final class ChangeLines {

  private ChangeLines() {}

  /**
   * {@return the line that a draft was applied}: its name, reason and reference, who approved it.
   * It has the name that the author wrote, never one computed from the changes, which could name
   * things that readers of the trail can't see.
   *
   * @param name that the author gave the draft, or null
   * @param changes the lines of what it changed, of which it has accounts and places; at least one
   */
  static AuditEvent applied(
      @Nullable String name,
      RevisionCause cause,
      List<AuditEvent> changes,
      Catalogue after,
      @Nullable String address) {
    AuditEvent first = changes.getFirst();
    ChangeText text = new ChangeText(after, after);
    List<String> said = new ArrayList<>();
    said.add(name == null ? "Applied a draft" : "Applied “" + name + "”");
    if (cause.reason() != null) {
      said.add("Reason: " + cause.reason());
    }
    if (cause.reference() != null) {
      said.add("Reference: " + cause.reference());
    }
    if (!cause.approvedBy().isEmpty()) {
      said.add(
          "Approved by "
              + cause.approvedBy().stream()
                  .map(it -> text.name(Kind.PRINCIPALS, it))
                  .collect(Collectors.joining(", ")));
    }
    return new AuditEvent(
        AuditEvent.Act.APPLIED,
        first.who(),
        first.whoName(),
        null,
        first.revision(),
        null,
        null,
        null,
        changes.stream().flatMap(it -> it.accounts().stream()).distinct().toList(),
        changes.stream().flatMap(it -> it.places().stream()).distinct().toList(),
        String.join(". ", said),
        null,
        null,
        address);
  }

  /**
   * {@return a line for each change}, in their order
   *
   * @param authority of its author, over the model before
   * @param after the model after all of them
   * @param address from where it was done, or null
   */
  public static List<AuditEvent> of(
      List<Change> changes,
      Authority authority,
      Catalogue before,
      Catalogue after,
      long revision,
      @Nullable String address) {
    ChangeText text = new ChangeText(before, after);
    Principal author = before.principals().get(authority.author());
    List<AuditEvent> lines = new ArrayList<>();
    for (Change change : changes) {
      Thing first = change.things().getFirst();
      Thing last = change.things().getLast();
      Key key = first.key();
      Set<String> accounts = new LinkedHashSet<>();
      Set<String> places = new LinkedHashSet<>();
      for (RequiredRight demand : authority.demandsOf(change)) {
        for (ResourceKey resource : demand.anyOf()) {
          AccountKey account = before.has(resource) ? before.accountOf(resource) : null;
          if (account != null) {
            accounts.add(account.value());
          }
          places.addAll(ResourcePath.above(resource, before));
        }
      }
      if (accounts.isEmpty() && author != null) {
        accounts.add(author.account().value());
      }
      lines.add(
          new AuditEvent(
              AuditEvent.Act.CHANGED,
              authority.author().value(),
              author == null ? null : author.about().nameOr(author.key()),
              null,
              revision,
              Kind.of(first).field(),
              key == null ? null : key.value(),
              text.name(change),
              List.copyOf(accounts),
              List.copyOf(places),
              String.join("; ", text.sentences(change)),
              change instanceof Change.Added ? null : ThingDocument.write(first),
              change instanceof Change.Removed ? null : ThingDocument.write(last),
              address));
    }
    return lines;
  }
}
