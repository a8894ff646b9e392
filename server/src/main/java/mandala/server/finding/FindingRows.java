package mandala.server.finding;

import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.document.FindingText;
import mandala.document.TroubleText;
import mandala.server.authorization.RequestContext;
import mandala.server.draft.DraftProposals;

/** Makes rows of findings, for one call. */
final class FindingRows {
  private final RequestContext context;
  private final DraftProposals drafts;
  private final Catalogue catalogue;
  private final TroubleText text;
  private final FindingText rules;
  private final Map<String, Boolean> alive = new HashMap<>();

  FindingRows(RequestContext context, DraftProposals drafts) {
    this.drafts = drafts;
    this.context = context;
    catalogue = context.state().engine().catalogue();
    text = new TroubleText(catalogue, context.naming());
    rules = new FindingText(catalogue, catalogue, context.naming());
  }

  String state(SeenFinding it) {
    if (it.resolvedAt() != null) {
      return "resolved";
    }
    if (it.isAccepted(context.readPolicy().now())) {
      return "accepted";
    }
    String draft = it.state().draft();
    return draft != null && alive.computeIfAbsent(draft, this::isAlive) ? "in-draft" : "new";
  }

  private boolean isAlive(String draft) {
    return drafts.isAlive(draft);
  }

  boolean isCalled(SeenFinding it, String lowerCase) {
    if (isReadable(it.about())) { // so its name needs nobody's holdings
      return it.about().value().toLowerCase(Locale.ROOT).contains(lowerCase)
          || text.name(it.about()).toLowerCase(Locale.ROOT).contains(lowerCase);
    }
    return text(it).name(it.about()).toLowerCase(Locale.ROOT).contains(lowerCase);
  }

  /** The key of what is listed only because somebody holds it stays hidden. */
  boolean isReadable(Key key) {
    return context.naming().tells(TroubleText.kind(key), key.value());
  }

  FindingController.FindingRow of(SeenFinding it) {
    FindingState.Acceptance accepted = it.state().acceptance();
    String state = state(it);
    AccountKey account = it.account();
    boolean told = account != null && context.naming().tells(Kind.ACCOUNTS, account.value());
    String owner = it.state().owner();
    boolean known = owner != null && context.naming().tells(Kind.PRINCIPALS, owner);
    return new FindingController.FindingRow(
        it.idFor(context),
        it.kind(),
        it.title(),
        word(it.harm()),
        word(it.risk()),
        it.weight(),
        said(it),
        TroubleText.kind(it.about()).field(),
        isReadable(it.about()) ? it.about().value() : null,
        text(it).name(it.about()),
        told && account != null ? account.value() : null,
        told && account != null ? text.name(account) : null,
        state,
        accepted == null || state.equals("accepted")
            ? null
            : it.isWorseThan(accepted) ? "worse" : "ended",
        known ? owner : null,
        owner == null ? null : known ? text.name(new PrincipalKey(owner)) : "Somebody",
        accepted == null ? null : accepted.until(),
        accepted == null ? null : accepted.reason(),
        it.since(),
        it.revision(),
        it.resolvedAt(),
        it.isUpTo(context));
  }

  private String said(SeenFinding it) {
    return it.rule() != null
        ? rules.of(it.rule()).name() + ": " + rules.of(it.rule()).said()
        : text(it).of(Objects.requireNonNull(it.trouble()));
  }

  private TroubleText text(SeenFinding it) {
    return it.people().isEmpty()
        ? text
        : new TroubleText(catalogue, SeenFindingReader.naming(it.people(), it.within(), context));
  }

  /** {@return the word for a value in answers and addresses}, {@code no-owner} */
  static String word(Enum<?> it) {
    return it.name().toLowerCase(Locale.ROOT).replace('_', '-');
  }
}
