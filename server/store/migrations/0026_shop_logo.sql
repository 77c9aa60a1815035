CREATE TABLE "shop_logos" (
	"id" text PRIMARY KEY NOT NULL,
	"type" text NOT NULL,
	"content" "bytea" NOT NULL
);
