package mandala.server.question;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.core.authority.RequiredRight;
import mandala.core.authority.SecondApproval;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.escalation.EscalationPath;
import mandala.core.escalation.EscalationSearch;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.question.Question;
import mandala.core.question.WhoQuestion;
import mandala.document.ChangeText;
import mandala.document.Naming;
import mandala.server.authorization.AskablePrincipal;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.authorization.Visibility;
import mandala.server.platform.Costly;
import mandala.server.platform.ExportTable;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** How could they get it: chains of changes by rights over the model. */
@RestController
@RequestMapping("/api/ask/chains")
class EscalationController {

  /** So many who could approve are named. */
  private static final int NAMED = 5;

  /** So long, in milliseconds, everybody is looked at for one call. */
  private static final long PATIENCE_MILLIS = 20_000;

  private final RequestContexts contexts;
  private final QuestionAudit asking;

  EscalationController(RequestContexts contexts, QuestionAudit asking) {
    this.contexts = contexts;
    this.asking = asking;
  }

  /**
   * How one person could.
   *
   * @param held whether it is held already
   * @param name of the person
   * @param what the permission in words
   * @param where the place in words
   * @param chains the shortest, those that ask for the fewest approvals first
   * @param changes how many changes a chain was allowed
   * @param whole whether every chain of that length was tried
   * @param hidden whether there are more, through what the viewer may not read
   */
  record ChainsAnswer(
      boolean held,
      String name,
      String what,
      String where,
      List<ChainView> chains,
      int changes,
      boolean whole,
      boolean hidden) {}

  /** One after the other; {@code approvals} of its links need a second person. */
  record ChainView(List<LinkView> links, long approvals) {}

  /**
   * One thing to do.
   *
   * @param kind {@code change}, {@code sign-in} or {@code act-for}
   * @param said it as sentences
   * @param uses the rights over the model that it uses; none where it is one's own affair
   * @param approval why a second person must approve: {@code widens} or {@code critical}; none
   *     where nobody must
   * @param approvers names of some who could
   * @param moreApprovers whether others could, too
   */
  record LinkView(
      String kind,
      List<String> said,
      List<LeverView> uses,
      List<String> approval,
      List<String> approvers,
      boolean moreApprovers) {}

  /** A right over the model that is used, and where. */
  record LeverView(String permission, String permissionName, String resource, String place) {}

  @GetMapping
  ChainsAnswer chains(
      @RequestParam String principal,
      @RequestParam String permission,
      @RequestParam String resource,
      @RequestParam(required = false) @Nullable Instant at,
      @RequestParam(defaultValue = "true") boolean secondFactor,
      @RequestParam(defaultValue = "3") int changes,
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam(required = false) @Nullable Long revision) {
    RequestContext context = told(contexts.context(draft, revision));
    Engine engine = context.asked().engine();
    AskablePrincipal asked = AskablePrincipal.of(context, principal, null);
    if (!engine.catalogue().principals().containsKey(asked.principal().key())) {
      throw Problem.notFound(
          "'" + principal + "' is not in the directory of the model that you ask about.");
    }
    Naming naming = context.about(List.of(asked.principal()), asked.only(), null);
    Key.Resource place = new Key.Resource(resource.isBlank() ? "?" : resource);
    Key.Account account = naming.tells(place) ? engine.catalogue().accountOf(place) : null;
    if (account == null
        || Visibility.permission(permission, engine.catalogue(), naming) == null
        || (asked.only() != null && !asked.only().contains(account))) {
      throw Problem.notFound(
          "There is no '" + permission + "' on '" + resource + "' to ask about here.");
    }
    HoldersQuestion wanted =
        HoldersQuestion.of(
            List.of(permission),
            null,
            null,
            new WhoQuestion.Where.On(place),
            engine.catalogue(),
            naming);
    asking.about(
        context,
        asked.principal(),
        "How they could " + wanted.what() + ": " + wanted.place(),
        account);
    requireChanges(changes, EscalationSearch.Limits.ONE.changes());
    Question question =
        new Question(
            asked.principal().key(),
            new Key.Permission(permission),
            place,
            at == null ? context.readPolicy().now() : at,
            secondFactor,
            null);
    EscalationSearch.Limits limits = EscalationSearch.Limits.ONE.withChanges(changes);
    EscalationSearch.Answer answer = EscalationSearch.of(engine, question, limits);
    List<ChainView> told =
        answer.chains().stream()
            .filter(it -> isReadable(it, context, engine.catalogue()))
            .map(it -> view(it, context, engine.catalogue()))
            .toList();
    return new ChainsAnswer(
        answer.held(),
        asked.principal().about().nameOr(asked.principal().key()),
        wanted.what(),
        wanted.place(),
        told,
        changes,
        answer.whole(),
        answer.chains().size() > told.size());
  }

  private static void requireChanges(int changes, int most) {
    if (changes < 1 || changes > most) {
      throw Problem.badRequest(
          "Chains of 1 to " + most + " changes",
          "'changes' is " + changes + ". Give 1, 2 or 3; longer chains are not searched.");
    }
  }

  /**
   * Who could come to it, and does not have it.
   *
   * @param people those with the fewest changes first
   * @param looked at how many of how many {@code able} to change anything was looked; null for a
   *     viewer who may not read all of them
   * @param whole whether at all of them
   * @param changes how many changes a chain was allowed
   * @param hidden whether others could whom, or whose chain, the viewer may not see
   */
  record ClimbersAnswer(
      String what,
      String where,
      List<ClimberView> people,
      @Nullable Integer looked,
      @Nullable Integer able,
      boolean whole,
      int changes,
      boolean hidden) {}

  /** Somebody, and the shortest chain. */
  record ClimberView(String key, String name, String account, ChainView chain) {}

  @Costly
  @GetMapping("/everyone")
  ClimbersAnswer everyone(
      @RequestParam String permission,
      @RequestParam String resource,
      @RequestParam(required = false) @Nullable Instant at,
      @RequestParam(defaultValue = "2") int changes,
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam(required = false) @Nullable Long revision) {
    requireChanges(changes, EscalationSearch.Limits.EACH.changes());
    RequestContext context = told(contexts.context(draft, revision));
    Engine engine = context.asked().engine();
    Catalogue catalogue = engine.catalogue();
    HoldersQuestion wanted =
        HoldersQuestion.of(
            List.of(permission),
            null,
            null,
            HoldersQuestion.where(resource, null, null, context),
            catalogue,
            context.naming());
    long end = System.nanoTime() + PATIENCE_MILLIS * 1_000_000;
    int[] looked = new int[2];
    List<EscalationSearch.Climber> climbers =
        EscalationSearch.toward(
            engine,
            new Key.Permission(permission),
            placeOf(wanted),
            at == null ? context.readPolicy().now() : at,
            EscalationSearch.Limits.EACH.withChanges(changes),
            (done, of) -> {
              boolean on = System.nanoTime() < end;
              looked[0] = on ? done + 1 : done;
              looked[1] = of;
              return on;
            });
    asking.everybody(
        wanted.accounts(catalogue), "Who could come to " + wanted.what() + ": " + wanted.place());
    boolean whole = context.readPolicy().readsAll();
    List<ClimberView> people = new ArrayList<>();
    for (EscalationSearch.Climber it : climbers) {
      Principal who = catalogue.principals().get(it.who());
      EscalationPath chain = it.answer().chains().getFirst();
      if (who != null
          && context.readPolicy().mayRead(who)
          && isReadable(chain, context, catalogue)) {
        people.add(
            new ClimberView(
                who.key().value(),
                who.about().nameOr(who.key()),
                context.text().name(Kind.ACCOUNTS, who.account().value()),
                view(chain, context, catalogue)));
      }
    }
    return new ClimbersAnswer(
        wanted.what(),
        wanted.place(),
        people,
        whole ? looked[0] : null,
        whole ? looked[1] : null,
        looked[0] == looked[1],
        changes,
        climbers.size() > people.size());
  }

  /** How one person could, as a file: a line for each link. */
  @Costly
  @GetMapping("/export")
  void export(
      @RequestParam String principal,
      @RequestParam String permission,
      @RequestParam String resource,
      @RequestParam(required = false) @Nullable Instant at,
      @RequestParam(defaultValue = "true") boolean secondFactor,
      @RequestParam(defaultValue = "3") int changes,
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam(required = false) @Nullable Long revision,
      @RequestParam String format,
      HttpServletResponse response)
      throws IOException {
    ChainsAnswer answer =
        chains(principal, permission, resource, at, secondFactor, changes, draft, revision);
    List<List<Object>> rows = new ArrayList<>();
    for (int i = 0; i < answer.chains().size(); i++) {
      rows(principal, i + 1, answer.chains().get(i), rows);
    }
    send(rows, format, response);
  }

  /** Who could, as a file: a line for each link of the shortest chain of each. */
  @Costly
  @GetMapping("/everyone/export")
  void exportEveryone(
      @RequestParam String permission,
      @RequestParam String resource,
      @RequestParam(required = false) @Nullable Instant at,
      @RequestParam(defaultValue = "2") int changes,
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam(required = false) @Nullable Long revision,
      @RequestParam String format,
      HttpServletResponse response)
      throws IOException {
    List<List<Object>> rows = new ArrayList<>();
    everyone(permission, resource, at, changes, draft, revision)
        .people()
        .forEach(it -> rows(it.key(), 1, it.chain(), rows));
    send(rows, format, response);
  }

  private static void rows(String who, int number, ChainView chain, List<List<Object>> rows) {
    for (int i = 0; i < chain.links().size(); i++) {
      LinkView link = chain.links().get(i);
      rows.add(
          List.of(
              who,
              number,
              i + 1,
              String.join("; ", link.said()),
              link.uses().stream()
                  .map(it -> it.permissionName() + " on " + it.place())
                  .collect(Collectors.joining("; ")),
              String.join(", ", link.approval()),
              String.join(", ", link.approvers())));
    }
  }

  private static void send(List<List<Object>> rows, String format, HttpServletResponse response)
      throws IOException {
    List<String> head =
        List.of("who", "chain", "step", "what", "by", "second person because", "who could approve");
    new ExportTable("chains", head, rows).send(format, response);
  }

  private static Key.Resource placeOf(HoldersQuestion wanted) {
    return wanted.where() instanceof WhoQuestion.Where.On(Key.Resource it)
        ? it
        : new Key.Resource(wanted.place());
  }

  private static RequestContext told(RequestContext context) {
    Set<Key.Account> within = context.draftedWithin();
    return within == null ? context : context.live();
  }

  /** Whether the viewer may read all that the chain alters and names. */
  private static boolean isReadable(
      EscalationPath chain, RequestContext context, Catalogue before) {
    Catalogue now = before;
    for (Change change : chain.changes()) {
      if (!context.tellsAllOf(change, now)) {
        return false;
      }
      now = Draft.of(List.of(change)).appliedUnchecked(now);
    }
    return true;
  }

  private static ChainView view(EscalationPath chain, RequestContext context, Catalogue before) {
    List<LinkView> links = new ArrayList<>();
    Catalogue now = before;
    for (EscalationPath.Link link : chain.links()) {
      switch (link) {
        case EscalationPath.Link.Makes it -> {
          Catalogue after = Draft.of(List.of(it.change())).appliedUnchecked(now);
          links.add(view(it, context, now, after));
          now = after;
        }
        case EscalationPath.Link.SignsIn _ ->
            links.add(bare("sign-in", "They sign in with their second factor"));
        case EscalationPath.Link.ActsFor(Key.Principal whom) -> {
          Principal it = now.principals().get(whom);
          String name =
              it == null || !context.readPolicy().mayRead(it)
                  ? "somebody whom you can't see"
                  : it.about().nameOr(whom);
          links.add(bare("act-for", "They act for " + name));
        }
      }
    }
    return new ChainView(links, chain.approvals());
  }

  private static LinkView bare(String kind, String said) {
    return new LinkView(kind, List.of(said), List.of(), List.of(), List.of(), false);
  }

  private static LinkView view(
      EscalationPath.Link.Makes it, RequestContext context, Catalogue before, Catalogue after) {
    List<LeverView> uses =
        it.uses().stream().map(demand -> lever(demand, context, before)).distinct().toList();
    List<String> approvers =
        it.approvers().stream()
            .map(key -> before.principals().get(key))
            .filter(Objects::nonNull)
            .map(Objects::requireNonNull)
            .filter(who -> context.readPolicy().mayRead(who))
            .map(who -> who.about().nameOr(who.key()))
            .limit(NAMED)
            .toList();
    return new LinkView(
        "change",
        context.text(before, after).sentences(it.change()),
        uses,
        it.reasons().stream().map(EscalationController::word).distinct().toList(),
        approvers,
        it.approvers().size() > approvers.size());
  }

  private static LeverView lever(RequiredRight demand, RequestContext context, Catalogue in) {
    Key.Resource at = demand.anyOf().getFirst();
    ChangeText text = context.text(in, in);
    return new LeverView(
        demand.permission().value(),
        text.name(Kind.PERMISSIONS, demand.permission().value()),
        context.naming().tells(at) ? at.value() : "",
        text.place(at));
  }

  private static String word(SecondApproval.Reason reason) {
    return switch (reason) {
      case SecondApproval.Reason.Widens _, SecondApproval.Reason.WidensFor _ -> "widens";
      case SecondApproval.Reason.Critical _ -> "critical";
      case SecondApproval.Reason.ManyPeople _ -> "many-people";
    };
  }
}
