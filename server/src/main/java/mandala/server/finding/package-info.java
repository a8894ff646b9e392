/**
 * What is wrong with the model and its use, kept between looks, with what people said of it; entry
 * points {@link mandala.server.finding.FindingLook} and {@code FindingController}.
 */
@NullMarked
package mandala.server.finding;

import org.jspecify.annotations.NullMarked;
