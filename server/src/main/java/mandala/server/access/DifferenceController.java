package mandala.server.access;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import mandala.core.engine.Access;
import mandala.core.engine.Difference;
import mandala.core.engine.Outlook;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.server.platform.Problem;
import mandala.server.platform.Sheet;
import mandala.server.session.Trace;
import mandala.server.trail.Happening;
import mandala.server.trail.Trail;
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

  private final Sights sights;
  private final Trail trail;
  private final Trace trace;

  DifferenceController(Sights sights, Trail trail, Trace trace) {
    this.sights = sights;
    this.trail = trail;
    this.trace = trace;
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
    Sights.Look here = sights.look(draft, revision);
    Sights.Look there = sights.look(otherDraft, otherRevision);
    Catalogue catalogue = there.asked().engine().catalogue();
    Key.Account account = in == null || in.isBlank() ? null : AskController.account(catalogue, in);
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
    Outlook outlook = new Outlook(account, account == null, null);
    Difference difference = first.access().difference(second.access());
    List<DifferenceLine> lines =
        DifferenceLine.of(difference, first.access(), second.access()).stream()
            .filter(it -> isWithin(it.account(), account, catalogue))
            .toList();
    return new DifferenceAnswer(
        view(first, outlook, in),
        view(second, outlook, in),
        lines.stream().mapToLong(DifferenceLine::gained).sum(),
        lines.stream().mapToLong(DifferenceLine::lost).sum(),
        figure(second.access().beyond(first.access()), outlook, in),
        figure(first.access().beyond(second.access()), outlook, in),
        DifferingArea.of(difference, first.access().catalogue(), second.access().catalogue())
            .stream()
            .filter(it -> isWithin(it.account(), account, catalogue))
            .toList(),
        lines);
  }

  private static boolean isWithin(String account, Key.@Nullable Account top, Catalogue catalogue) {
    Key.Account key = new Key.Account(account);
    return top == null
        || key.equals(top)
        || (catalogue.accounts().containsKey(key) && catalogue.isAtOrBelow(key, top));
  }

  private static ComparedSide.Setting setting(
      Sights.Look look,
      @Nullable Instant at,
      boolean secondFactor,
      Key.@Nullable Account in,
      @Nullable Principal like) {
    return new ComparedSide.Setting(
        look, at == null ? look.sight().now() : at, secondFactor, in, like);
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
    new Sheet(
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
  private void note(Sights.Look look, ComparedSide side) {
    Catalogue catalogue = look.asked().engine().catalogue();
    Principal whom =
        side.principal() != null
            ? side.principal()
            : side.kind().equals("colleagues")
                ? catalogue.principals().get(new Key.Principal(side.key()))
                : null;
    if (whom != null && !whom.key().equals(look.sight().viewer())) {
      trail.writeAlone(
          trace
              .by(Happening.Act.ASKED, List.of(whom.account().value()), "How they differ")
              .about(
                  Kind.PRINCIPALS.field(),
                  whom.key().value(),
                  whom.about().nameOr(whom.key()),
                  Places.above(whom.place(), catalogue)));
    }
  }

  private static DifferenceSide view(ComparedSide side, Outlook outlook, @Nullable String in) {
    return new DifferenceSide(
        side.kind(),
        side.key(),
        side.name(),
        side.note(),
        side.at(),
        side.revision(),
        side.access().refusal().map(verdict -> verdict.word()).orElse(null),
        figure(side.access(), outlook, in));
  }

  /** Of an account that was not there then, there is none. */
  private static FigureView figure(Access access, Outlook outlook, @Nullable String in) {
    Catalogue catalogue = access.catalogue();
    boolean there =
        in == null || in.isBlank() || catalogue.accounts().containsKey(new Key.Account(in));
    return there ? FigureView.of(access.figure(outlook), catalogue) : new FigureView(0, List.of());
  }
}
