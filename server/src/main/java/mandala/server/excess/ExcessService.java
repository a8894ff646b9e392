package mandala.server.excess;

import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.Iterator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import mandala.core.analysis.Peers;
import mandala.core.compliance.FindingOrigins;
import mandala.core.engine.Engine;
import mandala.core.excess.Excess;
import mandala.core.excess.ExcessStudy;
import mandala.core.excess.Use;
import mandala.core.excess.UseWindow;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.present.Access;
import mandala.core.question.Extent;
import mandala.core.question.Session;
import mandala.document.ChangeText;
import mandala.document.Naming;
import mandala.server.authorization.AskablePrincipal;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.Visibility;
import mandala.server.model.History;
import mandala.server.platform.Problem;
import mandala.server.question.FigureView;
import mandala.server.question.QuestionAudit;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Answers what of somebody's access is unused, and notes that it was asked. */
@Component
class ExcessService {

  /** Maximum number of colleagues who are asked whether they use something. */
  private static final int MOST_COLLEAGUES = 40;

  /** Maximum number of places of a permission in one answer. */
  private static final int MOST_RIGHTS = 100;

  /** Maximum number of revisions gone back to find since when something is held. */
  private static final int MOST_REVISIONS = 60;

  private final ExcessStudies studies;
  private final QuestionAudit audit;
  private final History history;

  ExcessService(ExcessStudies studies, QuestionAudit audit, History history) {
    this.studies = studies;
    this.audit = audit;
    this.history = history;
  }

  /**
   * What is asked, with all that it takes to answer. Made for one call.
   *
   * @param part whether the viewer may be told only some of it, with or without a draft
   */
  private record Asked(
      RequestContext context,
      AskablePrincipal whom,
      boolean part,
      PrincipalKey key,
      UseWindow window,
      ExcessStudies.Past past,
      ExcessStudy study) {

    Engine engine() {
      return context.asked().engine();
    }

    /** {@return the rights that are unused, in accounts that may be told of} */
    List<Excess.Right> unused() {
      Set<AccountKey> only = whom.only();
      Catalogue catalogue = engine().catalogue();
      return study.rights(key).stream()
          .filter(it -> only == null || only.contains(catalogue.accountOf(it.resource())))
          .toList();
    }

    /** Stricter than the names of what they hold: only what the viewer may read, or holds. */
    boolean tells(String permission) {
      return context.naming().tells(Kind.PERMISSIONS, permission);
    }

    Naming naming(Access access) {
      boolean inForce = !context.isPast() && !context.isDrafted();
      return context.about(List.of(whom.principal()), whom.only(), inForce ? access : null);
    }
  }

  private Asked asked(ExcessController.ExcessParams params, RequestContext context) {
    AskablePrincipal whom = AskablePrincipal.of(context, params.principal(), null);
    RequestContext seen = context.withoutHiddenDraft();
    Set<AccountKey> within = seen.draftedWithin();
    boolean part = whom.only() != null;
    if (within != null) {
      whom = whom.within(within);
    }
    PrincipalKey key = whom.principal().key();
    Engine engine = seen.asked().engine();
    if (!engine.catalogue().principals().containsKey(key)) {
      throw Problem.notFound(
          "'"
              + key
              + "' is not in the directory of the model that you ask about. Choose another"
              + " revision, or leave the draft out.");
    }
    UseWindow window = studies.window(params.days(), seen.instantOrNow(params.at()));
    ExcessStudies.Past past = studies.past(window, seen.asked(), seen.state());
    return new Asked(
        seen, whom, part, key, window, past, studies.of(List.of(key), window, engine, past));
  }

  /** {@return what of somebody's access they use} */
  ExcessAnswer answer(
      ExcessController.ExcessParams params,
      @Nullable String in,
      boolean doors,
      RequestContext context) {
    Asked asked = asked(params, context);
    ExcessStudy.Shares shares = asked.study().shares(asked.key());
    Catalogue catalogue = asked.engine().catalogue();
    Naming naming = asked.naming(shares.effective());
    AccountKey account = in == null ? null : Visibility.account(in, catalogue, naming);
    audit.about(context, asked.whom().principal(), "What they use of their access");
    Set<AccountKey> only = asked.whom().only();
    Excess excess = asked.study().of(asked.key());
    Extent extent = new Extent(account, doors, only);
    Extent all = new Extent(null, false, only);
    long rights = shares.effective().rights(all);
    long used = shares.needed().rights(all);
    long kept = shares.kept().rights(all);
    long exposure = shares.effective().exposure(all);
    boolean inForce = !asked.context().isPast() && !asked.context().isDrafted();
    return new ExcessAnswer(
        asked.window().at(),
        asked.window().days(),
        asked.window().first(),
        asked.past().shorter(),
        asked.part(),
        rights,
        only == null ? excess.needed() : used,
        only == null ? excess.young() : null,
        kept - used,
        rights - kept,
        exposure,
        exposure - shares.kept().exposure(all),
        FigureView.of(shares.effective().figure(extent), catalogue, naming, inForce),
        FigureView.of(shares.needed().figure(extent), catalogue, naming, inForce),
        FigureView.of(shares.kept().figure(extent), catalogue, naming, inForce),
        permissions(asked, naming));
  }

  private List<ExcessAnswer.UnusedPermission> permissions(Asked asked, Naming naming) {
    Map<PermissionKey, Long> counts = new TreeMap<>(Comparator.comparing(PermissionKey::value));
    asked.unused().stream()
        .map(Excess.Right::permission)
        .filter(it -> asked.tells(it.value()))
        .forEach(it -> counts.merge(it, 1L, Long::sum));
    Use ever = studies.ever(List.of(asked.key()), asked.window().at());
    Map<PermissionKey, LocalDate> last = new HashMap<>();
    ever.of(asked.key())
        .forEach(it -> last.merge(it.permission(), it.last(), ExcessService::later));
    Catalogue catalogue = asked.engine().catalogue();
    ChangeText text = new ChangeText(catalogue, catalogue, naming);
    List<PrincipalKey> colleagues = colleagues(asked);
    Use theirs = studies.use(colleagues, asked.window());
    List<ExcessAnswer.UnusedPermission> all = new ArrayList<>();
    counts.forEach((key, places) -> {
      Permission it = Objects.requireNonNull(catalogue.permissions().get(key));
      long using =
          colleagues.stream()
              .filter(
                  who -> theirs.of(who).stream().anyMatch(used -> used.permission().equals(key)))
              .count();
      all.add(
          new ExcessAnswer.UnusedPermission(
              key.value(),
              text.name(Kind.PERMISSIONS, key.value()),
              FigureView.word(it.accessClass()),
              FigureView.word(it.risk()),
              places,
              last.get(key),
              colleagues.isEmpty() ? null : colleagues.size(),
              colleagues.isEmpty() ? null : (int) using));
    });
    all.sort(
        Comparator.comparingInt((ExcessAnswer.UnusedPermission it) ->
                -Permission.Risk.valueOf(it.risk().toUpperCase(Locale.ROOT)).ordinal())
            .thenComparingLong(it -> -it.places())
            .thenComparing(ExcessAnswer.UnusedPermission::key));
    return all;
  }

  private static LocalDate later(LocalDate one, LocalDate other) {
    return one.isAfter(other) ? one : other;
  }

  /** Colleagues about whom the viewer may ask all. */
  private static List<PrincipalKey> colleagues(Asked asked) {
    Principal whose =
        Objects.requireNonNull(asked.engine().catalogue().principals().get(asked.key()));
    return Peers.of(asked.engine(), whose, asked.window().at()).people().stream()
        .filter(asked.context().readPolicy()::maySeeAllOf)
        .limit(MOST_COLLEAGUES)
        .toList();
  }

  /** {@return where somebody does not use a permission} */
  UnusedAnswer rights(
      ExcessController.ExcessParams params, String permission, RequestContext context) {
    Asked asked = asked(params, context);
    Access access = asked.study().shares(asked.key()).effective();
    Naming naming = asked.naming(access);
    audit.about(context, asked.whom().principal(), "Where they don't use a permission");
    List<Excess.Right> all =
        asked.tells(permission)
            ? asked.unused().stream()
                .filter(it -> it.permission().value().equals(permission))
                .toList()
            : List.of();
    List<Excess.Right> named = all.stream().filter(it -> naming.tells(it.resource())).toList();
    List<Excess.Right> told = named.stream().limit(MOST_RIGHTS).toList();
    Use ever = studies.ever(List.of(asked.key()), asked.window().at());
    Map<ResourceKey, Use.Used> uses = new HashMap<>();
    ever.of(asked.key()).stream()
        .filter(it -> it.permission().value().equals(permission))
        .forEach(it -> uses.put(it.resource(), it));
    Map<Excess.Right, Instant> since = new HashMap<>();
    Set<Excess.Right> longer = heldSince(asked, told, since);
    Catalogue catalogue = asked.engine().catalogue();
    return new UnusedAnswer(
        studies.keptSince(),
        all.size(),
        told.stream()
            .map(it -> {
              Use.Used used = uses.get(it.resource());
              return new UnusedAnswer.UnusedRight(
                  it.resource().value(),
                  catalogue.nameOf(it.resource()),
                  used == null ? null : used.last(),
                  used == null ? 0 : used.days(),
                  since.get(it),
                  longer.contains(it));
            })
            .toList(),
        all.size() - named.size());
  }

  /**
   * Goes back revision by revision as long as any of some rights was held.
   *
   * @param since takes when each was given, where that is found
   * @return those that were held as far back as it went; what only a draft gives is in neither
   */
  private Set<Excess.Right> heldSince(
      Asked asked, List<Excess.Right> rights, Map<Excess.Right, Instant> since) {
    Set<Excess.Right> held = new LinkedHashSet<>(rights);
    RequestContext context = asked.context();
    Iterator<FindingOrigins.Stretch> stretches =
        history.newestFirst(context.isDrafted() ? context.state() : context.asked());
    for (int i = 0; i < MOST_REVISIONS && !held.isEmpty() && stretches.hasNext(); i++) {
      FindingOrigins.Stretch stretch = stretches.next();
      held.removeIf(it -> !had(asked, stretch, it));
      held.forEach(it -> since.put(it, stretch.from()));
    }
    return held;
  }

  private static boolean had(Asked asked, FindingOrigins.Stretch stretch, Excess.Right it) {
    Catalogue then = stretch.engine().catalogue();
    if (!then.principals().containsKey(asked.key())
        || !then.permissions().containsKey(it.permission())) {
      return false;
    }
    // what holds by the model of then, at the instant asked about: windows aside
    Session session = new Session(asked.key(), asked.window().at(), true, null);
    return then.has(it.resource())
        && stretch.engine().decide(session.asks(it.permission(), it.resource())).allowed();
  }
}
