package mandala.server.draft;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.authority.Refusal;
import mandala.core.authority.SecondApproval;
import mandala.core.change.Change;
import mandala.core.change.Rebase;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.core.model.check.Fault;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.document.ChangeText;
import mandala.document.Naming;
import mandala.document.ThingDocument;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/**
 * A draft as it is shown.
 *
 * @param content the hash of exactly this content: what is approved and applied
 * @param base the revision on which it stands; {@code revision} the newest
 * @param faults of the model after it
 * @param refusals why its owner may not make it, that are of no single change
 * @param clashes what somebody else has changed meanwhile in another way
 * @param judging whether it is still being found out if a second person must approve: ask again
 * @param reasons why a second person must approve, none where nobody must
 * @param due when it is applied by itself, or null
 * @param dueFault why it was not applied by itself, or null
 * @param approvers who could
 * @param appliers who else could apply it, where its owner may not
 */
record DraftView(
    String id,
    PersonName owner,
    boolean mine,
    @Nullable String name,
    String state,
    long version,
    String content,
    long base,
    long revision,
    String proposedName,
    @Nullable String reason,
    @Nullable String reference,
    RequiredReason needs,
    boolean restorable,
    @Nullable Long takesBack,
    @Nullable Long appliedAs,
    Instant changedAt,
    @Nullable Instant due,
    @Nullable String dueFault,
    List<ChangeView> changes,
    List<FaultView> faults,
    List<String> refusals,
    List<ClashView> clashes,
    boolean judging,
    List<String> reasons,
    List<PersonName> approvers,
    List<PersonName> appliers,
    boolean mayApprove,
    List<ApprovalView> approvals,
    List<RequestView> requests,
    List<CommentView> comments) {

  /** Somebody by key and name. */
  record PersonName(String key, String name) {}

  /**
   * One change.
   *
   * @param act {@code adds}, {@code alters} or {@code removes}
   * @param refusals why the owner may not make it
   */
  record ChangeView(
      String kind,
      String kindName,
      @Nullable String key,
      String name,
      String act,
      List<String> sentences,
      @Nullable JsonNode before,
      @Nullable JsonNode after,
      List<String> refusals) {}

  /** What is wrong with the model after it, where, and what to do. */
  record FaultView(
      @Nullable String kind,
      @Nullable String key,
      @Nullable String name,
      String what,
      String next) {}

  /** Something that somebody else changed meanwhile: mine beside theirs. */
  record ClashView(
      String kind,
      @Nullable String key,
      String name,
      List<String> mine,
      List<String> theirs,
      List<String> fields) {}

  /**
   * An approval.
   *
   * @param counts whether it is of the draft as it is now
   */
  record ApprovalView(PersonName who, Instant at, boolean counts) {}

  /**
   * Somebody who was asked to approve, or who declined.
   *
   * @param state {@code waiting}, {@code approved}, {@code declined}, or {@code outdated} where
   *     what they declined has changed since
   * @param because why they declined
   */
  record RequestView(
      PersonName who,
      String state,
      Instant askedAt,
      @Nullable Instant remindedAt,
      @Nullable Instant answeredAt,
      @Nullable String because) {}

  /** A remark. */
  record CommentView(PersonName who, String said, Instant at) {}

  /**
   * A draft in a list.
   *
   * @param proposedName what it is called while it has no name; empty for an empty draft
   * @param foreign whether somebody else wrote in it too
   * @param request how the viewer's own approval stands where they were asked, see {@link
   *     RequestView}
   */
  record Summary(
      String id,
      PersonName owner,
      boolean mine,
      @Nullable String name,
      String proposedName,
      boolean foreign,
      @Nullable Long takesBack,
      @Nullable RequestView request,
      String state,
      long version,
      String content,
      int size,
      Instant changedAt,
      @Nullable Long appliedAs) {}

  /** Somebody who may not be named has no key either. */
  static PersonName person(String key, RequestContext context) {
    return new PersonName(
        context.naming().tells(Kind.PRINCIPALS, key) ? key : "",
        context.text().name(Kind.PRINCIPALS, key));
  }

  /**
   * {@return a draft in a list}
   *
   * @param foreign whether somebody else wrote in it too
   * @param request the viewer's own, null where they were not asked
   */
  static Summary summary(
      DraftRow row, RequestContext context, boolean foreign, @Nullable RequestView request) {
    return new Summary(
        row.id(),
        person(row.owner(), context),
        row.owner().equals(context.readPolicy().viewer().value()),
        row.name(),
        row.name() == null ? DraftTitle.of(row.draft(), context) : "",
        foreign,
        row.takesBack(),
        request,
        row.state().word(),
        row.version(),
        row.content(),
        row.draft().changes().size(),
        row.changedAt(),
        row.appliedAs());
  }

  static DraftView of(
      DraftRow row,
      DraftReview review,
      RequestContext context,
      boolean told,
      @Nullable List<SecondApproval.Reason> found,
      boolean ownersFactor,
      boolean mayApprove,
      Said said) {
    Catalogue before = review.state().engine().catalogue();
    ChangeText text = context.text(before, review.catalogue());
    RefusalText refusals = new RefusalText(review, ownersFactor, context);
    String content = review.content();
    List<SecondApproval.Reason> reasons = found == null ? List.of() : found;
    return new DraftView(
        row.id(),
        person(row.owner(), context),
        row.owner().equals(context.readPolicy().viewer().value()),
        row.name(),
        row.state().word(),
        row.version(),
        content,
        row.base(),
        review.state().revision(),
        row.name() == null ? DraftTitle.of(row.draft(), context) : "",
        row.reason(),
        row.reference(),
        said.needs(),
        row.isRestorable(context.readPolicy().now()),
        row.takesBack(),
        row.appliedAs(),
        row.changedAt(),
        row.dueAt(),
        row.dueFault(),
        changes(review, text, refusals, context),
        told ? faults(review, text, context) : List.of(),
        review.refusals().stream()
            .filter(refusal -> changeOf(refusal) == null)
            .map(refusals::of)
            .toList(),
        review.rebase().clashes().stream().map(it -> clash(it, context, text)).toList(),
        found == null,
        reasons.stream().map(refusals::of).toList(),
        reasons.isEmpty()
            ? List.of()
            : refusals.readable(review.authority().whoCouldApprove()).stream()
                .filter(key -> !said.authors().contains(key.value()))
                .map(key -> person(key.value(), context))
                .toList(),
        row.isAlive() && isForOthers(review)
            ? refusals.readable(review.authority().whoCouldMake()).stream()
                .filter(key -> isReadBy(key, row, context))
                .map(key -> person(key.value(), context))
                .toList()
            : List.of(),
        mayApprove,
        said.approvals().stream()
            .map(it ->
                new ApprovalView(
                    person(it.approver(), context), it.at(), it.content().equals(content)))
            .toList(),
        said.requests().stream()
            .map(it -> request(it, said.approvals(), content, context))
            .toList(),
        said.comments().stream()
            .map(it -> new CommentView(person(it.author(), context), it.said(), it.at()))
            .toList());
  }

  /** Whether its owner may not make a draft for want of permissions only, which others may have. */
  private static boolean isForOthers(DraftReview review) {
    return !review.refusals().isEmpty()
        && review.refusals().stream().allMatch(Refusal.Lacking.class::isInstance);
  }

  /** Whether somebody may read all of a draft: only then it can be handed to them. */
  static boolean isReadBy(PrincipalKey who, DraftRow row, RequestContext context) {
    Engine engine = context.state().engine();
    ReadPolicy theirs =
        new ReadPolicy(engine, new Session(who, context.readPolicy().now(), true, null));
    return row.draft().isEmpty() || row.isReadBy(theirs, engine.catalogue());
  }

  /** {@return how a request stands against content as it is now} */
  static RequestView request(
      ApprovalRequests.Request it,
      List<Drafts.Approval> approvals,
      String content,
      RequestContext context) {
    boolean approved =
        approvals.stream()
            .anyMatch(
                given -> given.approver().equals(it.approver()) && given.content().equals(content));
    ApprovalRequests.Declined declined = it.declined();
    return new RequestView(
        person(it.approver(), context),
        approved
            ? "approved"
            : declined == null ? "waiting" : it.isDeclined(content) ? "declined" : "outdated",
        it.askedAt(),
        it.remindedAt(),
        declined == null ? null : declined.at(),
        declined == null ? null : declined.because());
  }

  /**
   * What was said of a draft.
   *
   * @param authors keys of those who wrote in it
   * @param needs what policies ask it to say
   */
  record Said(
      Set<String> authors,
      RequiredReason needs,
      List<Drafts.Approval> approvals,
      List<ApprovalRequests.Request> requests,
      List<Drafts.Comment> comments) {}

  private static @Nullable Change changeOf(Refusal refusal) {
    return switch (refusal) {
      case Refusal.Lacking(Change change, var _) -> change;
      case Refusal.NewRoot(Change change) -> change;
      case Refusal.NotOffered(Change change) -> change;
      case Refusal.NotOneself(Change change) -> change;
      case Refusal.LastOwner _ -> null;
    };
  }

  private static List<ChangeView> changes(
      DraftReview review, ChangeText text, RefusalText refusals, RequestContext context) {
    Map<Change, List<Refusal>> of = new HashMap<>();
    for (Refusal refusal : review.refusals()) {
      Change change = changeOf(refusal);
      if (change != null) {
        of.computeIfAbsent(change, _ -> new ArrayList<>()).add(refusal);
      }
    }
    List<ChangeView> views = new ArrayList<>();
    for (Change change : review.draft().changes()) {
      views.add(
          view(
              change,
              text,
              context,
              of.getOrDefault(change, List.of()).stream()
                  .map(refusals::of)
                  .distinct() // of accounts that can't be seen, not even how many
                  .toList()));
    }
    return views;
  }

  /** Of something that its owner may no longer read, only the kind is told. */
  private static ChangeView view(
      Change change, ChangeText text, RequestContext context, List<String> refusals) {
    Thing first = change.things().getFirst();
    Thing last = change.things().getLast();
    Key key = first.key();
    boolean readable =
        change instanceof Change.Added
            || context.readPolicy().mayRead(first, context.state().engine().catalogue());
    return new ChangeView(
        Kind.of(first).field(),
        Kind.of(first).word(),
        key == null || !readable ? null : key.value(),
        readable ? text.name(change) : Naming.hidden(Kind.of(first)),
        switch (change) {
          case Change.Added _ -> "adds";
          case Change.Altered _ -> "alters";
          case Change.Removed _ -> "removes";
        },
        readable ? text.sentences(change) : List.of("Changes what you can no longer see"),
        change instanceof Change.Added || !readable ? null : context.json(first),
        change instanceof Change.Removed || !readable ? null : context.json(last),
        refusals);
  }

  /** {@return the faults of a draft, of what may not be read without what they name} */
  static List<Fault> told(DraftReview review, RequestContext context) {
    return review.faults().stream()
        .map(it -> {
          Thing thing = thingAt(it.path(), review.catalogue());
          boolean readable = thing == null || isReadable(thing, review, context);
          return readable && namesOnlyWhatMayBeTold(it.what(), context)
              ? it
              : new Fault("$", UNSEEN, UNSEEN_NEXT);
        })
        .distinct()
        .toList();
  }

  private static final String UNSEEN = "something that you can't see does not fit with this draft";
  private static final String UNSEEN_NEXT = "Ask an administrator who sees all that it touches";

  private static boolean isReadable(Thing thing, DraftReview review, RequestContext context) {
    return context.readPolicy().mayRead(thing, review.catalogue())
        || context.state().engine().catalogue().find(thing) == null;
  }

  private static List<FaultView> faults(
      DraftReview review, ChangeText text, RequestContext context) {
    List<FaultView> views = new ArrayList<>();
    for (Fault fault : review.faults()) {
      Thing thing = thingAt(fault.path(), review.catalogue());
      Key key = thing == null ? null : thing.key();
      boolean readable = thing == null || isReadable(thing, review, context);
      if (!readable || !namesOnlyWhatMayBeTold(fault.what(), context)) {
        views.add(new FaultView(null, null, null, UNSEEN, UNSEEN_NEXT));
        continue;
      }
      views.add(
          new FaultView(
              thing == null ? null : Kind.of(thing).field(),
              key == null ? null : key.value(),
              thing == null ? null : text.name(thing),
              fault.what(),
              fault.next()));
    }
    return views;
  }

  /** Keys stand between quotes in faults. */
  private static boolean namesOnlyWhatMayBeTold(String what, RequestContext context) {
    var quoted = java.util.regex.Pattern.compile("'(?:[a-z]+:)?([a-z0-9._-]+)'").matcher(what);
    while (quoted.find()) {
      for (Kind kind : Kind.values()) {
        if (!context.naming().tells(kind, quoted.group(1))) {
          return false;
        }
      }
    }
    return true;
  }

  /** The thing at a path like {@code $.groups[3].members[0]}. */
  private static @Nullable Thing thingAt(String path, Catalogue catalogue) {
    var matcher = java.util.regex.Pattern.compile("\\$\\.(\\w+)\\[(\\d+)].*").matcher(path);
    Kind kind = matcher.matches() ? ThingDocument.kind(matcher.group(1)) : null;
    if (kind == null) {
      return null;
    }
    List<? extends Thing> things = catalogue.model().things(kind);
    int at = Integer.parseInt(matcher.group(2));
    return at < things.size() ? things.get(at) : null;
  }

  private static ClashView clash(Rebase.Clash clash, RequestContext context, ChangeText text) {
    Catalogue now = context.state().engine().catalogue();
    Change mine = clash.mine();
    Thing thing = mine.things().getFirst();
    Thing theirs = clash.theirs();
    Key key = thing.key();
    List<String> others =
        theirs == null
            ? List.of("It was removed")
            : mine instanceof Change.Added
                ? List.of("There is one of this key already")
                : context.readPolicy().mayRead(theirs, now)
                    ? context.text(now, now).sentences(new Change.Altered(thing, theirs))
                    : List.of("It was changed by somebody else");
    return new ClashView(
        Kind.of(thing).field(),
        key == null ? null : key.value(),
        text.name(mine),
        text.sentences(mine),
        others,
        clash.fields());
  }
}
