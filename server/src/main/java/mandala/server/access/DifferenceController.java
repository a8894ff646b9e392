package mandala.server.access;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import mandala.core.engine.Access;
import mandala.core.engine.Outlook;
import mandala.core.engine.Session;
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
 * draft, or any of these together.
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

  /** The answer: what the other side has more is gained, what it has not is lost. */
  record DifferenceAnswer(
      DifferenceSide one,
      DifferenceSide other,
      long gained,
      long lost,
      List<DifferenceLine> lines) {}

  /** One side: whose access, when, and its figure; both figures have the same areas. */
  record DifferenceSide(
      String key,
      String name,
      @Nullable String title,
      Instant at,
      long revision,
      @Nullable String refusal,
      FigureView figure) {}

  private record Side(Principal principal, Access access, long revision, Instant at) {}

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
    Side first = side(one, at, secondFactor, draft, revision);
    Side second = side(other, otherAt, otherSecondFactor, otherDraft, otherRevision);
    boolean same =
        one.equals(other)
            && secondFactor == otherSecondFactor
            && first.at().equals(second.at())
            && first.access().catalogue().equals(second.access().catalogue());
    if (same) {
      throw Problem.badRequest(
          "Both sides are the same", "Choose another person, time, revision, or a draft.");
    }
    Catalogue catalogue = second.access().catalogue();
    Key.Account account = in == null || in.isBlank() ? null : AskController.account(catalogue, in);
    Outlook outlook = new Outlook(account, account == null, null);
    List<DifferenceLine> lines =
        DifferenceLine.of(first.access(), second.access()).stream()
            .filter(it -> account == null || account.value().equals(it.account()))
            .toList();
    return new DifferenceAnswer(
        view(first, outlook, in),
        view(second, outlook, in),
        lines.stream().mapToLong(DifferenceLine::gained).sum(),
        lines.stream().mapToLong(DifferenceLine::lost).sum(),
        lines);
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

  private Side side(
      String who,
      @Nullable Instant at,
      boolean secondFactor,
      @Nullable String draft,
      @Nullable Long revision) {
    Sights.Look look = sights.look(draft, revision);
    Catalogue catalogue = look.asked().engine().catalogue();
    Asked asked = Asked.of(look.sight(), catalogue, who, null);
    if (asked.only() != null) {
      throw Problem.forbidden(
          "You may ask about some of the access of '"
              + who
              + "' only, so that it cannot be compared. Ask what they can do there instead.");
    }
    Principal principal = catalogue.principals().get(new Key.Principal(who));
    if (principal == null) {
      throw Problem.notFound("'" + who + "' was not in the directory then. Choose another time.");
    }
    Instant when = at == null ? look.sight().now() : at;
    note(look, principal);
    return new Side(
        principal,
        look.asked().engine().access(new Session(principal.key(), when, secondFactor, null)),
        look.asked().revision(),
        when);
  }

  /** Questions about another person stand in the trail. */
  private void note(Sights.Look look, Principal whom) {
    if (!whom.key().equals(look.sight().viewer())) {
      trail.writeAlone(
          trace
              .by(Happening.Act.ASKED, List.of(whom.account().value()), "How they differ")
              .about(
                  Kind.PRINCIPALS.field(),
                  whom.key().value(),
                  whom.about().nameOr(whom.key()),
                  Places.above(whom.place(), look.asked().engine().catalogue())));
    }
  }

  private static DifferenceSide view(Side side, Outlook outlook, @Nullable String in) {
    Principal it = side.principal();
    Catalogue catalogue = side.access().catalogue();
    boolean there =
        in == null || in.isBlank() || catalogue.accounts().containsKey(new Key.Account(in));
    return new DifferenceSide(
        it.key().value(),
        it.about().nameOr(it.key()),
        it.attributes().get("title"),
        side.at(),
        side.revision(),
        side.access().refusal().map(verdict -> verdict.word()).orElse(null),
        there
            ? FigureView.of(side.access().figure(outlook), catalogue)
            : new FigureView(0, List.of()));
  }
}
