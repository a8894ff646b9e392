package mandala.server.draft;

import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.change.Rebase;
import mandala.core.model.Catalogue;
import mandala.document.ChangeText;
import mandala.server.authorization.RequestContext;

/** What a draft without a name is called: by its first change and the number of the others. */
final class DraftTitle {

  /** Longer titles are cut after a word. */
  private static final int MOST = 120;

  private DraftTitle() {}

  /** {@return a draft's title as its viewer may read it}, empty for an empty draft */
  static String of(Draft draft, RequestContext context) {
    Catalogue live = context.state().engine().catalogue();
    Change first =
        draft.changes().stream()
            .filter(it ->
                it instanceof Change.Added
                    || context.readPolicy().mayRead(it.things().getFirst(), live))
            .findFirst()
            .orElse(null);
    if (first == null) {
      return draft.isEmpty() ? "" : "Changes what you can no longer see";
    }
    Catalogue after = Rebase.of(draft, live).draft().appliedUnchecked(live);
    return of(first, draft.changes().size() - 1, context.text(live, after));
  }

  /** {@return the title of a draft that is applied}, with all names */
  static String of(DraftReview review) {
    Draft draft = review.draft();
    return of(
        draft.changes().getFirst(),
        draft.changes().size() - 1,
        new ChangeText(review.state().engine().catalogue(), review.catalogue()));
  }

  private static String of(Change first, int others, ChangeText text) {
    String title = cut(text.sentences(first).getFirst());
    return others == 0
        ? title
        : title + (others == 1 ? ", and 1 more change" : ", and " + others + " more changes");
  }

  private static String cut(String sentence) {
    if (sentence.length() <= MOST) {
      return sentence;
    }
    int end = sentence.lastIndexOf(' ', MOST);
    return sentence.substring(0, end < 1 ? MOST : end) + "…";
  }
}
