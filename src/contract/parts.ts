import { Type, type ClassConstructor } from 'class-transformer';
import { IsObject, ValidateNested } from 'class-validator';

/**
 * A part of a request that is an object of a class: it has to be there, be an object and no list, and be right in all of its own parts.
 * `@ValidateNested()` alone takes a part that is missing, and an empty list, for right.
 */
export const IsPart = (typeOf: () => ClassConstructor<object>): PropertyDecorator => together(typeOf, false);

/** The same of each in a list; that it is a list, and how long, is said beside it. */
export const EachPart = (typeOf: () => ClassConstructor<object>): PropertyDecorator => together(typeOf, true);

const together =
  (typeOf: () => ClassConstructor<object>, each: boolean): PropertyDecorator =>
  (target, property) => {
    Type(typeOf)(target, property);
    ValidateNested({ each })(target, property);
    IsObject({ each, message: each ? 'Each of these has to be an object.' : 'This part is missing, or is no object.' })(
      target,
      property,
    );
  };
