package mandala.server.question;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import mandala.core.model.Principal;
import mandala.core.present.Access;
import mandala.core.question.Difference;
import mandala.core.question.Extent;
import mandala.document.Naming;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.ExportTable;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/**
 * How do they differ: two people, one person at two times, at two revisions, without and with a
 * draft, or any of these together; a person and a role, a pattern, or what colleagues have in
 * common; two roles.
 */
@RestController
@RequestMapping("/api/ask/difference")
class DifferenceController {

  private final RequestContexts contexts;
  private final QuestionAudit asking;

  DifferenceController(RequestContexts contexts, QuestionAudit asking) {
    this.contexts = contexts;
    this.asking = asking;
  }

  /**
   * The answer: what the other side has more is gained, what it has not is lost.
   *
   * @param more a figure of what only the other side has, {@code less} of what only the one has
   * @param areas where it differs
   */
  record DifferenceAnswer(
      DifferenceSide one,
      DifferenceSide other,
      long gained,
      long lost,
      FigureView more,
      FigureView less,
      List<DifferingArea> areas,
      List<DifferenceLine> lines) {}

  /**
   * One side: whose access, when, and its figure; both figures have the same areas.
   *
   * @param kind {@code person}, {@code role}, {@code pattern} or {@code colleagues}
   * @param title what the name does not say
   */
  record DifferenceSide(
      String kind,
      String key,
      String name,
      @Nullable String title,
      Instant at,
      long revision,
      @Nullable String refusal,
      FigureView figure) {}

  @GetMapping
  DifferenceAnswer difference(
      @RequestParam String one,
      @RequestParam String other,
      @RequestParam(required = false) @Nullable String in,
      @RequestParam(required = false) @Nullable Instant at,
      @RequestParam(required = false) @Nullable Instant otherAt,
      @RequestParam(defaultValue = "true") boolean secondFactor,
      @RequestParam(defaultValue = "true") boolean otherSecondFactor,
      @RequestParam(required = false) @Nullable Long revision,
      @RequestParam(required = false) @Nullable Long otherRevision,
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam(required = false) @Nullable String otherDraft) {
    RequestContext here = told(contexts.context(draft, revision));
    RequestContext there = told(contexts.context(otherDraft, otherRevision));
    Catalogue catalogue = there.asked().engine().catalogue();
    Key.Account account =
        in == null || in.isBlank() ? null : AccessController.account(catalogue, in, there.naming());
    Principal person = ComparedSide.personIn(one, here.asked().engine().catalogue());
    Principal otherPerson = ComparedSide.personIn(other, catalogue);
    ComparedSide first =
        ComparedSide.of(one, setting(here, at, secondFactor, account, otherPerson));
    ComparedSide second =
        ComparedSide.of(other, setting(there, otherAt, otherSecondFactor, account, person));
    boolean same =
        one.equals(other)
            && secondFactor == otherSecondFactor
            && first.at().equals(second.at())
            && first.access().catalogue().equals(second.access().catalogue());
    if (same) {
      throw Problem.badRequest(
          "Both sides are the same", "Choose another person, time, revision, or a draft.");
    }
    note(here, first);
    note(there, second);
    Set<Key.Account> within = within(here, there);
    Extent outlook = new Extent(account, account == null, within);
    Naming naming = naming(here, there, first, second);
    Difference difference = first.access().difference(second.access());
    List<DifferenceLine> lines =
        DifferenceLine.of(difference, first.access(), second.access(), naming).stream()
            .filter(it -> isWithin(it.account(), account, catalogue, within))
            .toList();
    return new DifferenceAnswer(
        view(first, outlook, in, naming, !here.isPast()),
        view(second, outlook, in, naming, !there.isPast()),
        lines.stream().mapToLong(DifferenceLine::gained).sum(),
        lines.stream().mapToLong(DifferenceLine::lost).sum(),
        figure(second.access().beyond(first.access()), outlook, in, naming, !there.isPast()),
        figure(first.access().beyond(second.access()), outlook, in, naming, !here.isPast()),
        DifferingArea.of(
                difference, first.access().catalogue(), second.access().catalogue(), naming)
            .stream()
            .filter(it -> isWithin(it.account(), account, catalogue, within))
            .toList(),
        lines);
  }

  /** A draft of which nothing may be told is left out. */
  private static RequestContext told(RequestContext context) {
    Set<Key.Account> within = context.draftedWithin();
    return within != null && within.isEmpty() ? context.live() : context;
  }

  /** The accounts of which may be told where a draft is laid over a side; null for all. */
  private static @Nullable Set<Key.Account> within(RequestContext here, RequestContext there) {
    Set<Key.Account> one = here.draftedWithin();
    Set<Key.Account> other = there.draftedWithin();
    if (one == null || other == null) {
      return one == null ? other : one;
    }
    Set<Key.Account> both = new HashSet<>(one);
    both.retainAll(other);
    return both;
  }

  private static Naming naming(
      RequestContext here, RequestContext there, ComparedSide first, ComparedSide second) {
    List<Principal> whom =
        Stream.of(first.principal(), second.principal())
            .filter(Objects::nonNull)
            .map(Objects::requireNonNull)
            .toList();
    Naming one = here.about(whom, null, null);
    Naming other = there.about(whom, null, null);
    return (kind, key) -> one.tells(kind, key) && other.tells(kind, key);
  }

  private static boolean isWithin(
      String account,
      Key.@Nullable Account top,
      Catalogue catalogue,
      @Nullable Set<Key.Account> within) {
    if (account.isEmpty()) {
      return top == null && within == null;
    }
    Key.Account key = new Key.Account(account);
    if (within != null && !within.contains(key)) {
      return false;
    }
    return top == null
        || key.equals(top)
        || (catalogue.accounts().containsKey(key) && catalogue.isAtOrBelow(key, top));
  }

  private static ComparedSide.Setting setting(
      RequestContext context,
      @Nullable Instant at,
      boolean secondFactor,
      Key.@Nullable Account in,
      @Nullable Principal like) {
    return new ComparedSide.Setting(
        context, at == null ? context.readPolicy().now() : at, secondFactor, in, like);
  }

  /** The same as a file. */
  @GetMapping("/export")
  void export(
      @RequestParam String one,
      @RequestParam String other,
      @RequestParam(required = false) @Nullable String in,
      @RequestParam(required = false) @Nullable Instant at,
      @RequestParam(required = false) @Nullable Instant otherAt,
      @RequestParam(defaultValue = "true") boolean secondFactor,
      @RequestParam(defaultValue = "true") boolean otherSecondFactor,
      @RequestParam(required = false) @Nullable Long revision,
      @RequestParam(required = false) @Nullable Long otherRevision,
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam(required = false) @Nullable String otherDraft,
      @RequestParam String format,
      HttpServletResponse response)
      throws IOException {
    DifferenceAnswer answer =
        difference(
            one,
            other,
            in,
            at,
            otherAt,
            secondFactor,
            otherSecondFactor,
            revision,
            otherRevision,
            draft,
            otherDraft);
    List<List<Object>> rows = new ArrayList<>();
    answer
        .lines()
        .forEach(it ->
            rows.add(
                List.of(
                    it.accountName(),
                    it.permission(),
                    it.permissionName(),
                    it.accessClass(),
                    it.risk(),
                    it.gained(),
                    it.lost())));
    new ExportTable(
            "difference",
            List.of(
                "account",
                "permission",
                "name",
                "class",
                "risk",
                "only " + answer.other().name(),
                "only " + answer.one().name()),
            rows)
        .send(format, response);
  }

  /** Questions about another person stand in the trail. */
  private void note(RequestContext context, ComparedSide side) {
    Catalogue catalogue = context.asked().engine().catalogue();
    Principal whom =
        side.principal() != null
            ? side.principal()
            : side.kind().equals("colleagues")
                ? catalogue.principals().get(new Key.Principal(side.key()))
                : null;
    if (whom != null) {
      asking.about(context, whom, "How they differ");
    }
  }

  private static DifferenceSide view(
      ComparedSide side, Extent outlook, @Nullable String in, Naming naming, boolean inForce) {
    return new DifferenceSide(
        side.kind(),
        side.key(),
        side.name(),
        side.note(),
        side.at(),
        side.revision(),
        side.refusal(),
        figure(side.access(), outlook, in, naming, inForce));
  }

  /** Of an account that was not there then, there is none. */
  private static FigureView figure(
      Access access, Extent outlook, @Nullable String in, Naming naming, boolean inForce) {
    Catalogue catalogue = access.catalogue();
    boolean there =
        in == null || in.isBlank() || catalogue.accounts().containsKey(new Key.Account(in));
    return there
        ? FigureView.of(access.figure(outlook), catalogue, naming, inForce)
        : new FigureView(0, List.of());
  }
}
