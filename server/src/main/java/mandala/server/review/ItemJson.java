package mandala.server.review;

import com.fasterxml.jackson.annotation.JsonTypeInfo;
import mandala.core.change.Removal;
import mandala.core.model.Group;
import mandala.core.model.key.Key;
import mandala.core.review.ReviewItem;
import tools.jackson.databind.json.JsonMapper;

/** Items and orders as the database keeps them, each with the name of its kind. */
final class ItemJson {

  /** So that what is one of several kinds says which. */
  @JsonTypeInfo(use = JsonTypeInfo.Id.SIMPLE_NAME, property = "is")
  private interface Named {}

  private static final JsonMapper JSON =
      JsonMapper.builder()
          .addMixIn(Removal.class, Named.class)
          .addMixIn(Key.class, Named.class)
          .addMixIn(Group.Member.class, Named.class)
          .build();

  private ItemJson() {}

  static String write(ReviewItem item) {
    return JSON.writerFor(ReviewItem.class).writeValueAsString(item);
  }

  static ReviewItem read(String text) {
    return JSON.readValue(text, ReviewItem.class);
  }

  static String write(RoundOrder order) {
    return JSON.writeValueAsString(order);
  }

  static RoundOrder readOrder(String text) {
    return JSON.readValue(text, RoundOrder.class);
  }

  static String write(EventRule rule) {
    return JSON.writeValueAsString(rule);
  }

  static EventRule readRule(String text) {
    return JSON.readValue(text, EventRule.class);
  }
}
