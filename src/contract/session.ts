import { isEmail, IsString, Length, ValidateBy } from 'class-validator';

/** An email address, of which the standard has 254 characters at most: what is longer is not even looked at. */
export const IsAddress = (message: string) =>
  ValidateBy({
    name: 'isAddress',
    validator: {
      validate: (value) => typeof value === 'string' && value.length <= 254 && isEmail(value),
      defaultMessage: () => message,
    },
  });

export class SignIn {
  @IsAddress('Enter the email address of your account.')
  email!: string;

  @IsString()
  @Length(1, 1_000, { message: 'Enter your password.' })
  password!: string;
}

export class FirstAccount {
  @IsString()
  @Length(20, 200, { message: 'The one-time link is incomplete. Copy it whole.' })
  token!: string;

  @IsString()
  @Length(1, 120, { message: 'Enter your name.' })
  name!: string;

  @IsAddress('Enter an email address.')
  email!: string;

  @IsString()
  @Length(12, 200, { message: 'Choose a password of at least 12 characters.' })
  password!: string;
}

/** Another password for one's own account. */
export class NewPassword {
  @IsString()
  @Length(1, 1_000, { message: 'Enter your present password.' })
  present!: string;

  @IsString()
  @Length(12, 200, { message: 'Choose a password of at least 12 characters.' })
  next!: string;
}

/** One browser at which somebody is signed in. */
export interface OpenSessionView {
  id: string;
  /** What it said of itself, such as "Firefox on Linux"; '' for nothing. */
  browser: string;
  beganAt: string | null;
  endsAt: string;
  /** Whether it is the one that asks. */
  here: boolean;
}

export interface SessionView {
  account: { name: string; email: string };
  csrf: string;
}
