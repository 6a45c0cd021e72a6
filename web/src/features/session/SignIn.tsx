import { zodResolver } from "@hookform/resolvers/zod";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { z } from "zod";
import { api, unwrap } from "@/api/client";
import { Button, Field, Notice } from "@/shared/ui";

const form = z.object({ username: z.string().min(1, "Give your name"), password: z.string().min(1, "Give your password") });

export function SignIn() {
  const queryClient = useQueryClient();
  const [refused, setRefused] = useState("");
  const { register, handleSubmit, formState } = useForm({ resolver: zodResolver(form) });
  const signIn = handleSubmit(async (given) => {
    try {
      const member = unwrap(await api.POST("/api/session/", { body: given }));
      queryClient.setQueryData(["session"], member);
      await queryClient.invalidateQueries({ queryKey: ["session"] });
    } catch (error) {
      setRefused(error instanceof Error ? error.message : "Signing in failed.");
    }
  });
  return (
    <main className="mx-auto grid min-h-dvh max-w-md content-center gap-4 p-6">
      <h1 className="text-4xl">Jubark</h1>
      <p className="text-soft">Names woody plants by evidence, and keeps record of each stem.</p>
      <form onSubmit={(e) => void signIn(e)} className="grid gap-4" noValidate>
        <Field
          label="Name"
          autoComplete="username"
          autoCapitalize="none"
          error={formState.errors.username?.message}
          {...register("username")}
        />
        <Field
          label="Password"
          type="password"
          autoComplete="current-password"
          error={formState.errors.password?.message}
          {...register("password")}
        />
        {refused && <Notice kind="refused">{refused}</Notice>}
        <Button type="submit" weight="act" disabled={formState.isSubmitting}>
          Sign in
        </Button>
      </form>
    </main>
  );
}
