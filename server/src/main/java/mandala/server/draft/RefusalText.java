package mandala.server.draft;

import java.util.List;
import java.util.stream.Collectors;
import mandala.core.authority.Authority;
import mandala.core.authority.Refusal;
import mandala.core.authority.RequiredRight;
import mandala.core.authority.SecondApproval;
import mandala.core.model.Kind;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.document.ChangeText;
import mandala.server.authorization.RequestContext;

/** Why not, by which rule, and who could; in people's words. */
final class RefusalText {

  private static final int NAMED = 3;

  private final ChangeText text;
  private final RequestContext context;
  private final Authority authority;
  private final boolean secondFactor;

  /** Speaks to the viewer of a context, who is told only of what they may read. */
  RefusalText(DraftReview review, boolean secondFactor, RequestContext context) {
    this.context = context;
    this.text = context.text(review.state().engine().catalogue(), review.catalogue());
    this.authority = review.authority();
    this.secondFactor = secondFactor;
  }

  String of(Refusal refusal) {
    return switch (refusal) {
      case Refusal.Lacking(var change, RequiredRight demand) ->
          "To change the "
              + ChangeText.kind(change)
              + " "
              + text.name(change)
              + " you need "
              + RequestContext.wanted(demand, text)
              + ". "
              + whoCould(demand);
      case Refusal.NewRoot _ ->
          "A new account without a parent is made on the command line only. Give it a parent.";
      case Refusal.NotOffered(var change) ->
          "What the bridge "
              + text.name(change)
              + " gives, its scope and its group can be changed only while it is offered. End it and"
              + " offer another.";
      case Refusal.NotOneself _ ->
          "Only its holder can activate an assignment, and only one that applies to them. Ask them"
              + " to do it.";
      case Refusal.LastOwner(AccountKey account) ->
          "After it "
              + text.name(Kind.ACCOUNTS, account.value())
              + " would have no owner: an active person with a second factor who is assigned Owner"
              + " without an end. Assign it to somebody else first.";
    };
  }

  private String whoCould(RequiredRight demand) {
    List<PrincipalKey> could = readable(authority.whoCould(demand));
    return (could.isEmpty() ? "Ask an administrator there." : "Ask " + names(could) + ".")
        + (secondFactor ? "" : " Or sign in with your second factor.");
  }

  /** {@return those whom the viewer may read}: of the others nothing is said, not even how many */
  List<PrincipalKey> readable(List<PrincipalKey> people) {
    return people.stream()
        .filter(it -> context.naming().tells(Kind.PRINCIPALS, it.value()))
        .toList();
  }

  /** {@return the first few of some people}, all of whom may be read */
  String names(List<PrincipalKey> people) {
    String named =
        people.stream()
            .limit(NAMED)
            .map(key -> text.name(Kind.PRINCIPALS, key.value()))
            .collect(Collectors.joining(", "));
    return people.size() <= NAMED ? named : named + " and " + (people.size() - NAMED) + " more";
  }

  String of(SecondApproval.Reason reason) {
    return switch (reason) {
      case SecondApproval.Reason.Widens(var at, long rights) ->
          "It gives its author " + count(rights) + " more, from " + at + " on";
      case SecondApproval.Reason.WidensFor(PrincipalKey who, var at, long rights) ->
          "It lets its author do "
              + count(rights)
              + " more for "
              + text.name(Kind.PRINCIPALS, who.value())
              + ", from "
              + at
              + " on";
      case SecondApproval.Reason.Critical(List<PermissionKey> permissions, var at) ->
          "It gives somebody a critical permission: "
              + permissions.stream()
                  .limit(NAMED)
                  .map(key -> "“" + text.name(Kind.PERMISSIONS, key.value()) + "”")
                  .collect(Collectors.joining(", "))
              + ", from "
              + at
              + " on";
      case SecondApproval.Reason.ManyPeople(int _, int atMost) ->
          "It changes what more than "
              + atMost
              + " people may do; the policy of this Mandala asks for a second person from "
              + (atMost + 1)
              + " on";
    };
  }

  private static String count(long rights) {
    return rights == 1 ? "one right" : rights + " rights";
  }
}
