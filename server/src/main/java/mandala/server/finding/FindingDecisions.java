package mandala.server.finding;

import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.document.Naming;
import mandala.document.TroubleText;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContext;
import mandala.server.draft.DraftProposals;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Takes what people say of findings. */
@Component
class FindingDecisions {

  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("d MMM yyyy", Locale.ENGLISH);

  private final SeenFindingReader reader;
  private final FindingStore store;
  private final DraftProposals drafts;
  private final Trail trail;
  private final AuditContext auditContext;
  private final TransactionTemplate transactions;

  FindingDecisions(
      SeenFindingReader reader,
      FindingStore store,
      DraftProposals drafts,
      Trail trail,
      AuditContext auditContext,
      TransactionTemplate transactions) {
    this.reader = reader;
    this.store = store;
    this.drafts = drafts;
    this.trail = trail;
    this.auditContext = auditContext;
    this.transactions = transactions;
  }

  int accept(FindingController.AcceptanceOrder order, RequestContext context) {
    Instant now = context.readPolicy().now();
    List<SeenFinding> some = requireMine(order.ids(), context);
    transactions.executeWithoutResult(_ -> {
      for (SeenFinding it : some) {
        store.accept(
            it.id(),
            new FindingState.Acceptance(
                order.until(),
                context.readPolicy().viewer().value(),
                now,
                it.risk(),
                it.weight(),
                order.reason().strip()));
      }
      note(
          some,
          "Accepted until "
              + DAY.format(order.until().atOffset(ZoneOffset.UTC))
              + " (“"
              + order.reason().strip()
              + "”)",
          context);
    });
    return some.size();
  }

  int reopen(List<String> ids, RequestContext context) {
    List<SeenFinding> some = requireMine(ids, context);
    transactions.executeWithoutResult(_ -> {
      some.forEach(it -> store.reopen(it.id()));
      note(some, "Reopened", context);
    });
    return some.size();
  }

  int own(FindingController.OwnershipOrder order, RequestContext context) {
    List<SeenFinding> some = requireMine(order.ids(), context);
    String owner = order.owner() == null || order.owner().isBlank() ? null : order.owner();
    String said = "Removed the owner";
    if (owner != null) {
      Principal who =
          context.state().engine().catalogue().principals().get(new PrincipalKey(owner));
      boolean known =
          who != null
              && who.kind() == Principal.Kind.PERSON
              && context.readPolicy().mayRead(who)
              && context.state().engine().isActive(who.key(), context.readPolicy().now());
      if (!known || who == null) {
        throw Problem.notFound(
            "There is no active person '" + owner + "' that you may name. Choose from the list.");
      }
      said = "Made " + who.about().nameOr(who.key()) + " the owner";
    }
    String what = said;
    transactions.executeWithoutResult(_ -> {
      some.forEach(it -> store.own(it.id(), owner));
      note(some, what, context);
    });
    return some.size();
  }

  int drafted(String id, String draft, RequestContext context) {
    SeenFinding it = reader.require(List.of(id), context).getFirst();
    if (!drafts.isOwn(draft, context)) {
      throw Problem.notFound("You have no draft '" + draft + "'. Add the remedy to a draft first.");
    }
    store.drafted(it.id(), draft);
    return 1;
  }

  private List<SeenFinding> requireMine(List<String> ids, RequestContext context) {
    List<SeenFinding> some = reader.require(ids, context);
    for (SeenFinding it : some) {
      if (!it.isUpTo(context)) {
        AccountKey account = it.account();
        throw Problem.forbidden(
            account == null
                ? "You need “Define rights” on a root account to decide about this finding. Ask a"
                    + " security administrator."
                : "You need “Assign access” on "
                    + context.text().name(Kind.ACCOUNTS, account.value())
                    + " to decide about this finding. Ask its administrator.");
      }
    }
    return some;
  }

  private void note(List<SeenFinding> some, String what, RequestContext context) {
    Catalogue catalogue = context.state().engine().catalogue();
    TroubleText text = new TroubleText(catalogue, Naming.ALL);
    List<AuditEvent> lines = new ArrayList<>();
    for (SeenFinding it : some) {
      AccountKey account = it.account();
      List<String> accounts =
          account != null
              ? List.of(account.value())
              : catalogue.accounts().values().stream()
                  .filter(each -> each.parent() == null)
                  .map(each -> each.key().value())
                  .toList();
      AuditEvent line = auditContext.by(AuditEvent.Act.CHECKED, accounts, what + ": " + it.title());
      lines.add(FindingLook.about(it.about(), line, text));
    }
    trail.write(lines);
  }
}
