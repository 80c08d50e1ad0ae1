import { z } from 'zod';

type WithoutDefaults<Shape extends z.ZodRawShape> = {
  [Key in keyof Shape]: Shape[Key] extends z.ZodDefault<infer Field extends z.ZodType> ? Field : Shape[Key];
};

/**
 * An object as it is sent to change some of it, with no field filled in: a default is for what was never chosen, and would stand in for
 * every field that is not sent, also where all of them may be left out.
 */
export const withoutDefaults = <Shape extends z.ZodRawShape>(schema: z.ZodObject<Shape>): z.ZodObject<WithoutDefaults<Shape>> =>
  z.object(
    Object.fromEntries(
      Object.entries(schema.shape).map(([key, field]) => [key, field instanceof z.ZodDefault ? field.unwrap() : field]),
    ) as WithoutDefaults<Shape>,
  );
