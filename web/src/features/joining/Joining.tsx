import type { UseFormRegister, UseFormReturn } from "react-hook-form";
import { z } from "zod";
import { Refused } from "@/api/client";
import { Field } from "@/shared/ui";

export const LEAST_PASSWORD = 8;

export const joining = z.object({
  shown_name: z.string().trim().min(1, "Give the name others see").max(80),
  username: z.string().trim().min(1, "Give a name to sign in with").max(150),
  password: z.string().min(LEAST_PASSWORD, `At least ${LEAST_PASSWORD} characters`).max(200),
});
export type Joining = z.infer<typeof joining>;

interface Props {
  register: UseFormRegister<Joining>;
  errors: UseFormReturn<Joining>["formState"]["errors"];
}

/** Name, name to sign in with, and password of a new account. */
export function JoiningFields({ register, errors }: Props) {
  return (
    <>
      <Field
        label="Name others see"
        autoComplete="name"
        error={errors.shown_name?.message}
        {...register("shown_name")}
      />
      <Field
        label="Name to sign in with"
        autoComplete="username"
        autoCapitalize="none"
        error={errors.username?.message}
        {...register("username")}
      />
      <Field
        label="Password"
        hint={`At least ${LEAST_PASSWORD} characters, none of the common ones.`}
        type="password"
        autoComplete="new-password"
        error={errors.password?.message}
        {...register("password")}
      />
    </>
  );
}

/** What the server refused, at the field it names where the form has it; else as a sentence for the whole form. */
export function refusedAt<F extends string>(
  error: unknown,
  fields: readonly F[],
  at: (field: F, message: string) => void,
): string {
  const field = error instanceof Refused ? fields.find((f) => f === error.field) : undefined;
  const message = error instanceof Error ? error.message : "Nothing was made.";
  if (!field) return message;
  at(field, (error as Refused).allowed ?? message);
  return "";
}
