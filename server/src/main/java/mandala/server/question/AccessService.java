package mandala.server.question;

import java.util.List;
import java.util.Set;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.present.Access;
import mandala.core.question.Extent;
import mandala.document.ChangeText;
import mandala.document.Naming;
import mandala.server.authorization.Visibility;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Answers what somebody can do, and notes that it was asked. */
@Component
class AccessService {

  /** Up to this number of resources, every region is part of one answer. */
  private static final int TOLD_AT_ONCE = 4_000;

  private final QuestionAudit audit;

  AccessService(QuestionAudit audit) {
    this.audit = audit;
  }

  /**
   * {@return what somebody can do}
   *
   * @param in key of the account asked about, or null for all
   * @param doors whether to include bridges out of that account
   * @param size bytes above which regions that lie deep are folded
   * @throws Problem if there is no such account to the viewer's eyes
   */
  AccessAnswer answer(AccessQuestion question, @Nullable String in, boolean doors, int size) {
    Catalogue catalogue = question.catalogue();
    AccessQuestion.Held held = question.held();
    Access access = held.access();
    Naming naming = question.naming(access);
    AccountKey account = in == null ? null : Visibility.account(in, catalogue, naming);
    audit.about(question.context(), question.asked().principal(), "What they can do");
    Set<AccountKey> only = question.asked().only();
    Extent extent = new Extent(account, doors, only);
    List<RegionView> regions =
        access.refusal().isPresent()
            ? List.of()
            : RegionView.fitting(
                RegionView.of(
                    access.regions(extent, depth(access, extent)),
                    telling(question, access, extent, naming)),
                size);
    return new AccessAnswer(
        AccessAnswer.Named.of(question.asked().principal()),
        AccessAnswer.Named.ofNullable(question.asked().actingFor()),
        account == null
            ? null
            : new AccessAnswer.Named(account.value(), catalogue.nameOf(ResourceKey.of(account))),
        question.session().at(),
        question.session().mfa(),
        question.asked().principal().enrolled(),
        question.refusal(access),
        only != null,
        question.cut(),
        question.everybody(),
        held.through().stream().map(AccessAnswer.ThroughView::of).toList(),
        held.hidden(),
        question.switchable(naming),
        FigureView.of(access.figure(extent), catalogue, naming, !question.context().isPast()),
        regions,
        permissions(RegionView.permissionsIn(regions), catalogue, naming));
  }

  private static List<AccessAnswer.PermissionView> permissions(
      Set<String> mentioned, Catalogue catalogue, Naming naming) {
    ChangeText text = new ChangeText(catalogue, catalogue, naming);
    return catalogue.permissions().values().stream()
        .filter(it -> mentioned.contains(it.key().value()))
        .map(it ->
            new AccessAnswer.PermissionView(
                it.key().value(),
                text.name(Kind.PERMISSIONS, it.key().value()),
                naming.tells(Kind.PERMISSIONS, it.key().value()) ? it.about().description() : null,
                FigureView.word(it.accessClass()),
                FigureView.word(it.risk())))
        .toList();
  }

  /**
   * {@return one level of what lies inside of a region that said there is more}
   *
   * @param in key of the account asked about, or null for all
   * @throws Problem if the viewer may not ask about the resource, or there is none
   */
  List<RegionView> inside(AccessQuestion question, String resource, @Nullable String in) {
    Catalogue catalogue = question.catalogue();
    Access access = question.held().access();
    Naming naming = question.naming(access);
    AccountKey account = in == null ? null : Visibility.account(in, catalogue, naming);
    ResourceKey top = RightParams.resourceOf(resource);
    if (question.askableAccount(top, naming) == null) {
      throw Problem.notFound("There is no '" + resource + "' to ask about here.");
    }
    audit.about(question.context(), question.asked().principal(), "What they can do in " + top);
    Extent extent = new Extent(account, false, question.asked().only());
    return access.refusal().isPresent()
        ? List.of()
        : RegionView.of(access.inside(extent, top, 0), telling(question, access, extent, naming));
  }

  /** In a larger account, what lies inside of an area is told when it is asked for. */
  private static int depth(Access access, Extent extent) {
    return access.size(extent) > TOLD_AT_ONCE ? 0 : Integer.MAX_VALUE;
  }

  private static RegionView.Telling telling(
      AccessQuestion question, Access access, Extent extent, Naming naming) {
    return new RegionView.Telling(
        access, extent, naming, question.context().readPolicy().readableAccounts());
  }
}
