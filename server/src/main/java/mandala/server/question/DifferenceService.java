package mandala.server.question;

import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.present.Access;
import mandala.core.question.Difference;
import mandala.core.question.Extent;
import mandala.document.Naming;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.authorization.Visibility;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Answers how two sides differ, and notes that it was asked. */
@Component
class DifferenceService {

  private final RequestContexts contexts;
  private final QuestionAudit audit;

  DifferenceService(RequestContexts contexts, QuestionAudit audit) {
    this.contexts = contexts;
    this.audit = audit;
  }

  /**
   * {@return how the sides differ}, as far as the viewer may see it
   *
   * @throws Problem if something is unknown, the viewer may not ask, or both sides are the same
   */
  DifferenceAnswer answer(DifferenceParams params) {
    DifferenceParams.Side one = params.first();
    DifferenceParams.Side other = params.second();
    RequestContext here = one.model().context(contexts).withoutHiddenDraft();
    RequestContext there = other.model().context(contexts).withoutHiddenDraft();
    Catalogue catalogue = there.asked().engine().catalogue();
    String in = params.in();
    AccountKey account =
        in == null || in.isBlank() ? null : Visibility.account(in, catalogue, there.naming());
    Principal person = ComparedSide.personIn(one.named(), here.asked().engine().catalogue());
    Principal otherPerson = ComparedSide.personIn(other.named(), catalogue);
    ComparedSide first = side(one, here, account, otherPerson);
    ComparedSide second = side(other, there, account, person);
    boolean same =
        one.named().equals(other.named())
            && one.secondFactor() == other.secondFactor()
            && first.at().equals(second.at())
            && first.access().catalogue().equals(second.access().catalogue());
    if (same) {
      throw Problem.badRequest(
          "Both sides are the same", "Choose another person, time, revision, or a draft.");
    }
    note(here, first);
    note(there, second);
    Set<AccountKey> within = within(here, there);
    Extent extent = new Extent(account, account == null, within);
    Naming naming = naming(here, there, first, second);
    Difference difference = first.access().difference(second.access());
    List<DifferenceLine> lines =
        DifferenceLine.of(difference, first.access(), second.access(), naming).stream()
            .filter(it -> isWithin(it.account(), account, catalogue, within))
            .toList();
    return new DifferenceAnswer(
        view(first, extent, in, naming, !here.isPast()),
        view(second, extent, in, naming, !there.isPast()),
        lines.stream().mapToLong(DifferenceLine::gained).sum(),
        lines.stream().mapToLong(DifferenceLine::lost).sum(),
        figure(second.access().beyond(first.access()), extent, in, naming, !there.isPast()),
        figure(first.access().beyond(second.access()), extent, in, naming, !here.isPast()),
        DifferingArea.of(
                difference, first.access().catalogue(), second.access().catalogue(), naming)
            .stream()
            .filter(it -> isWithin(it.account(), account, catalogue, within))
            .toList(),
        lines);
  }

  private static ComparedSide side(
      DifferenceParams.Side side,
      RequestContext context,
      @Nullable AccountKey in,
      @Nullable Principal like) {
    return ComparedSide.of(
        side.named(),
        new ComparedSide.Setting(
            context, context.instantOrNow(side.at()), side.secondFactor(), in, like));
  }

  /** The accounts of which may be told where a draft is laid over a side; null for all. */
  private static @Nullable Set<AccountKey> within(RequestContext here, RequestContext there) {
    Set<AccountKey> one = here.draftedWithin();
    Set<AccountKey> other = there.draftedWithin();
    if (one == null || other == null) {
      return one == null ? other : one;
    }
    Set<AccountKey> both = new HashSet<>(one);
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
      @Nullable AccountKey top,
      Catalogue catalogue,
      @Nullable Set<AccountKey> within) {
    if (account.isEmpty()) {
      return top == null && within == null;
    }
    AccountKey key = new AccountKey(account);
    if (within != null && !within.contains(key)) {
      return false;
    }
    return top == null
        || key.equals(top)
        || (catalogue.accounts().containsKey(key) && catalogue.isAtOrBelow(key, top));
  }

  /** Questions about another person stand in the trail. */
  private void note(RequestContext context, ComparedSide side) {
    Catalogue catalogue = context.asked().engine().catalogue();
    Principal whom =
        side.principal() != null
            ? side.principal()
            : side.kind().equals("colleagues")
                ? catalogue.principals().get(new PrincipalKey(side.key()))
                : null;
    if (whom != null) {
      audit.about(context, whom, "How they differ");
    }
  }

  private static DifferenceAnswer.DifferenceSide view(
      ComparedSide side, Extent extent, @Nullable String in, Naming naming, boolean inForce) {
    return new DifferenceAnswer.DifferenceSide(
        side.kind(),
        side.key(),
        side.name(),
        side.note(),
        side.at(),
        side.revision(),
        side.refusal(),
        figure(side.access(), extent, in, naming, inForce));
  }

  /** Of an account that was not there then, there is none. */
  private static FigureView figure(
      Access access, Extent extent, @Nullable String in, Naming naming, boolean inForce) {
    Catalogue catalogue = access.catalogue();
    boolean there =
        in == null || in.isBlank() || catalogue.accounts().containsKey(new AccountKey(in));
    return there
        ? FigureView.of(access.figure(extent), catalogue, naming, inForce)
        : new FigureView(0, List.of());
  }
}
