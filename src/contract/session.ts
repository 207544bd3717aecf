import { IsEmail, IsString, Length, MinLength } from 'class-validator';

export class SignIn {
  @IsEmail({}, { message: 'Enter the email address of your account.' })
  email!: string;

  @IsString()
  @MinLength(1, { message: 'Enter your password.' })
  password!: string;
}

export class FirstAccount {
  @IsString()
  @Length(20, 200, { message: 'The one-time link is incomplete. Copy it whole.' })
  token!: string;

  @IsString()
  @Length(1, 120, { message: 'Enter your name.' })
  name!: string;

  @IsEmail({}, { message: 'Enter an email address.' })
  email!: string;

  @IsString()
  @Length(12, 200, { message: 'Choose a password of at least 12 characters.' })
  password!: string;
}

export interface SessionView {
  account: { name: string; email: string };
  csrf: string;
}
