package mandala.server.review;

import java.util.ArrayList;
import java.util.List;
import mandala.core.analysis.Peers;
import mandala.core.change.Removal;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.AssignmentKey;
import mandala.document.ChangeText;
import mandala.document.Naming;
import mandala.document.ReviewText;
import mandala.document.TroubleText;
import mandala.server.authorization.RequestContext;
import org.apache.commons.codec.digest.DigestUtils;
import org.jspecify.annotations.Nullable;

/** Items as lists show them, each to whoever must decide it. */
final class ItemRows {

  private ItemRows() {}

  /**
   * {@return items as a list shows them}, in their order
   *
   * @param open whether their round is: what was to be read for a decision ends with it
   */
  static List<ItemView.ItemRow> all(List<RoundItem> items, boolean open, RequestContext context) {
    return items.stream().map(it -> row(it, open && it.isDecidable(), context)).toList();
  }

  /** {@return an item that is open, as a list shows it} */
  static ItemView.ItemRow open(RoundItem it, RequestContext context) {
    return row(it, true, context);
  }

  private static ItemView.ItemRow row(RoundItem it, boolean open, RequestContext context) {
    Catalogue catalogue = context.state().engine().catalogue();
    Naming naming = open ? new ItemNaming(context).with(it.item()) : context.naming();
    boolean told = open || naming.tells(TroubleText.kind(it.item().about()), it.about());
    ReviewText text = new ReviewText(catalogue, naming);
    TroubleText names = new TroubleText(catalogue, naming);
    return new ItemView.ItemRow(
        it.round(),
        it.number(),
        open ? it.item().id() : context.mark("item " + it.item().id()),
        ReviewText.kind(it.item()),
        it.aboutKind(),
        told ? it.about() : context.mark(it.aboutKind() + " " + it.about()),
        it.item().about() instanceof AssignmentKey ? "Everyone" : names.name(it.item().about()),
        told ? note(it, catalogue, naming) : null,
        text.of(it.item()),
        it.risk(),
        it.takes(),
        it.exposure(),
        it.recommended(),
        alike(it, catalogue),
        it.stage(),
        it.state().word(),
        it.changed(),
        it.conflict(),
        it.insteadOf() == null
            ? null
            : new ChangeText(catalogue, catalogue, Naming.ALL)
                .name(Kind.PRINCIPALS, it.insteadOf()),
        it.verdict(),
        it.reason(),
        it.with().stream().map(id -> context.mark("item " + id)).toList(),
        it.decidedAt(),
        it.effect().outcome() == null ? null : it.effect().outcome().word(),
        it.effect().revision(),
        it.effect().remark());
  }

  private static @Nullable String note(RoundItem it, Catalogue catalogue, Naming naming) {
    Principal who = it.item().whose().map(catalogue.principals()::get).orElse(null);
    if (who == null) {
      return switch (it.aboutKind()) {
        case "groups" -> "group";
        case "roles" -> "role";
        case "patterns" -> "pattern";
        case "accounts" -> "account";
        default -> null;
      };
    }
    List<String> parts = new ArrayList<>();
    if (who.kind() == Principal.Kind.SERVICE) {
      parts.add("service");
    }
    String title = who.attributes().get(Peers.TITLE);
    if (title != null) {
      parts.add(title);
    }
    ChangeText text = new ChangeText(catalogue, catalogue, naming);
    if (naming.tells(Kind.ACCOUNTS, who.account().value())) {
      parts.add(text.name(Kind.ACCOUNTS, who.account().value()));
    }
    return parts.isEmpty() ? null : String.join(" · ", parts);
  }

  /** What makes items alike: the same thing given, to others. */
  private static String alike(RoundItem it, Catalogue catalogue) {
    String what =
        switch (it.item().removal()) {
          case Removal.Leave(var group, var _) -> group.value();
          case Removal.LoseAttribute(var group, var _) -> group.value();
          case Removal.EndGuest(var _, var account) -> account.value();
          case Removal.DropReach(var _, var unit) -> unit.value();
          case Removal.DropPattern(var who) -> {
            Principal principal = catalogue.principals().get(who);
            yield principal == null ? it.item().id() : String.valueOf(principal.pattern());
          }
          case Removal.Unassign(AssignmentKey key) -> {
            Assignment assignment = catalogue.assignments().get(key);
            yield assignment == null
                ? it.item().id()
                : assignment.gives() + " " + assignment.scope() + " " + assignment.viewScope();
          }
          default -> it.item().id();
        };
    String digest = DigestUtils.sha256Hex(what);
    return ReviewText.kind(it.item()) + " " + digest.substring(0, 16);
  }
}
