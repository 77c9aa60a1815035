CREATE TABLE "certificates" (
	"id" text PRIMARY KEY NOT NULL,
	"authority" text NOT NULL,
	"authority_key" text NOT NULL,
	"certificate" text NOT NULL,
	"key" text NOT NULL
);
