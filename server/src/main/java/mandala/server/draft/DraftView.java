package mandala.server.draft;

import io.swagger.v3.oas.annotations.media.Schema;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import mandala.core.authority.Refusal;
import mandala.core.change.Change;
import mandala.core.change.Rebase;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.core.model.check.Fault;
import mandala.document.ChangeText;
import mandala.document.ThingDocument;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * A draft as it is shown.
 *
 * @param content the hash of exactly this content: what is approved and applied
 * @param base the revision on which it stands; {@code revision} the newest
 * @param faults of the model after it
 * @param refusals why its owner may not make it, that are of no single change
 * @param clashes what somebody else has changed meanwhile in another way
 * @param reasons why a second person must approve, none where nobody must
 * @param approvers who could
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
    @Nullable Long takesBack,
    @Nullable Long appliedAs,
    Instant changedAt,
    List<ChangeView> changes,
    List<FaultView> faults,
    List<String> refusals,
    List<ClashView> clashes,
    List<String> reasons,
    List<PersonName> approvers,
    boolean mayApprove,
    List<ApprovalView> approvals,
    List<CommentView> comments) {

  private static final JsonMapper JSON = JsonMapper.builder().build();

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
      @Schema(type = "object") @Nullable JsonNode before,
      @Schema(type = "object") @Nullable JsonNode after,
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

  /** A remark. */
  record CommentView(PersonName who, String said, Instant at) {}

  /** A draft in a list. */
  record Summary(
      String id,
      PersonName owner,
      boolean mine,
      @Nullable String name,
      String state,
      long version,
      String content,
      int size,
      Instant changedAt,
      @Nullable Long appliedAs) {}

  static PersonName person(String key, Catalogue catalogue) {
    return new PersonName(key, new ChangeText(catalogue, catalogue).name(Kind.PRINCIPALS, key));
  }

  static Summary summary(DraftRow row, String viewer, Catalogue catalogue) {
    return new Summary(
        row.id(),
        person(row.owner(), catalogue),
        row.owner().equals(viewer),
        row.name(),
        row.state().word(),
        row.version(),
        row.content(),
        row.draft().changes().size(),
        row.changedAt(),
        row.appliedAs());
  }

  static DraftView of(
      DraftRow row,
      Judged judged,
      String viewer,
      boolean ownersFactor,
      boolean mayApprove,
      List<Drafts.Approval> approvals,
      List<Drafts.Comment> comments) {
    Catalogue before = judged.state().engine().catalogue();
    ChangeText text = new ChangeText(before, judged.catalogue());
    RefusalText refusals = new RefusalText(judged, ownersFactor);
    String content = judged.content();
    return new DraftView(
        row.id(),
        person(row.owner(), before),
        row.owner().equals(viewer),
        row.name(),
        row.state().word(),
        row.version(),
        content,
        row.base(),
        judged.state().revision(),
        row.takesBack(),
        row.appliedAs(),
        row.changedAt(),
        changes(judged, text, refusals),
        faults(judged, text),
        judged.refusals().stream()
            .filter(refusal -> changeOf(refusal) == null)
            .map(refusals::of)
            .toList(),
        judged.rebase().clashes().stream().map(it -> clash(it, before, text)).toList(),
        judged.reasons().stream().map(refusals::of).toList(),
        judged.reasons().isEmpty()
            ? List.of()
            : judged.authority().whoCouldApprove().stream()
                .map(key -> person(key.value(), before))
                .toList(),
        mayApprove,
        approvals.stream()
            .map(it ->
                new ApprovalView(
                    person(it.approver(), before), it.at(), it.content().equals(content)))
            .toList(),
        comments.stream()
            .map(it -> new CommentView(person(it.author(), before), it.said(), it.at()))
            .toList());
  }

  private static @Nullable Change changeOf(Refusal refusal) {
    return switch (refusal) {
      case Refusal.Lacking(Change change, var _) -> change;
      case Refusal.NewRoot(Change change) -> change;
      case Refusal.NotOffered(Change change) -> change;
      case Refusal.NotOneself(Change change) -> change;
      case Refusal.LastOwner _ -> null;
    };
  }

  static List<ChangeView> changes(Judged judged, ChangeText text, RefusalText refusals) {
    List<ChangeView> views = new ArrayList<>();
    for (Change change : judged.draft().changes()) {
      views.add(
          view(
              change,
              text,
              judged.refusals().stream()
                  .filter(refusal -> change.equals(changeOf(refusal)))
                  .map(refusals::of)
                  .toList()));
    }
    return views;
  }

  static ChangeView view(Change change, ChangeText text, List<String> refusals) {
    Thing first = change.things().getFirst();
    Thing last = change.things().getLast();
    Key key = first.key();
    return new ChangeView(
        Kind.of(first).field(),
        Kind.of(first).word(),
        key == null ? null : key.value(),
        text.name(change),
        switch (change) {
          case Change.Added _ -> "adds";
          case Change.Altered _ -> "alters";
          case Change.Removed _ -> "removes";
        },
        text.sentences(change),
        change instanceof Change.Added ? null : json(first),
        change instanceof Change.Removed ? null : json(last),
        refusals);
  }

  static JsonNode json(Thing thing) {
    return JSON.readTree(ThingDocument.write(thing));
  }

  private static List<FaultView> faults(Judged judged, ChangeText text) {
    List<FaultView> views = new ArrayList<>();
    for (Fault fault : judged.faults()) {
      Thing thing = thingAt(fault.path(), judged.catalogue());
      Key key = thing == null ? null : thing.key();
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

  private static ClashView clash(Rebase.Clash clash, Catalogue now, ChangeText text) {
    Change mine = clash.mine();
    Thing thing = mine.things().getFirst();
    Thing theirs = clash.theirs();
    Key key = thing.key();
    List<String> others =
        theirs == null
            ? List.of("It was removed")
            : mine instanceof Change.Added
                ? List.of("There is one of this key already")
                : new ChangeText(now, now).sentences(new Change.Altered(thing, theirs));
    return new ClashView(
        Kind.of(thing).field(),
        key == null ? null : key.value(),
        text.name(mine),
        text.sentences(mine),
        others,
        clash.fields());
  }
}
