CREATE TABLE "order_lines" (
	"id" text PRIMARY KEY NOT NULL,
	"order_id" text NOT NULL,
	"quote_id" text NOT NULL,
	"quote_part" integer NOT NULL,
	"for_job" text,
	"article" text DEFAULT '' NOT NULL,
	"text" text NOT NULL,
	"module" jsonb NOT NULL,
	"units" integer NOT NULL,
	"packs" integer NOT NULL,
	"received" integer DEFAULT 0 NOT NULL,
	"cost" integer,
	"price" integer NOT NULL,
	"expected_on" date,
	"cancelled_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "orders" (
	"id" text PRIMARY KEY NOT NULL,
	"number" serial NOT NULL,
	"supplier_id" text NOT NULL,
	"placed_at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" text NOT NULL,
	"reference" text DEFAULT '' NOT NULL,
	"is_sent" boolean DEFAULT false NOT NULL,
	CONSTRAINT "orders_number_unique" UNIQUE("number")
);
--> statement-breakpoint
CREATE TABLE "stock_counts" (
	"id" text PRIMARY KEY NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" text NOT NULL,
	"place" text,
	"expected" integer NOT NULL,
	"found" integer NOT NULL,
	"missing" integer NOT NULL,
	"moved" integer NOT NULL,
	"back" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "suppliers" (
	"id" text PRIMARY KEY NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"name" text NOT NULL,
	"contact" text DEFAULT '' NOT NULL,
	"service_url" text DEFAULT '' NOT NULL,
	"service_key" text DEFAULT '' NOT NULL,
	"columns" jsonb,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "suppliers_name_unique" UNIQUE("name")
);
--> statement-breakpoint
ALTER TABLE "drawer" ADD COLUMN "cost" integer;--> statement-breakpoint
ALTER TABLE "drawer" ADD COLUMN "place" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "drawer" ADD COLUMN "is_new" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "drawer" ADD COLUMN "supplier" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "drawer" ADD COLUMN "pulled_in" text;--> statement-breakpoint
ALTER TABLE "drawer" ADD COLUMN "order_line_id" text;--> statement-breakpoint
ALTER TABLE "drawer" ADD COLUMN "gone" text;--> statement-breakpoint
ALTER TABLE "drawer" ADD COLUMN "gone_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "drawer" ADD COLUMN "gone_job" text;--> statement-breakpoint
ALTER TABLE "drawer" ADD COLUMN "gone_note" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "drawer" ADD COLUMN "gone_by" text;--> statement-breakpoint
ALTER TABLE "modules" ADD COLUMN "cost" integer;--> statement-breakpoint
ALTER TABLE "modules" ADD COLUMN "priced_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "order_lines" ADD CONSTRAINT "order_lines_order_id_orders_id_fk" FOREIGN KEY ("order_id") REFERENCES "public"."orders"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "order_lines" ADD CONSTRAINT "order_lines_quote_id_quotes_id_fk" FOREIGN KEY ("quote_id") REFERENCES "public"."quotes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "order_lines" ADD CONSTRAINT "order_lines_for_job_jobs_id_fk" FOREIGN KEY ("for_job") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "orders" ADD CONSTRAINT "orders_supplier_id_suppliers_id_fk" FOREIGN KEY ("supplier_id") REFERENCES "public"."suppliers"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "order_lines_order_id_index" ON "order_lines" USING btree ("order_id");--> statement-breakpoint
CREATE INDEX "order_lines_for_job_index" ON "order_lines" USING btree ("for_job");--> statement-breakpoint
CREATE INDEX "order_lines_quote_id_index" ON "order_lines" USING btree ("quote_id");--> statement-breakpoint
ALTER TABLE "drawer" ADD CONSTRAINT "drawer_pulled_in_jobs_id_fk" FOREIGN KEY ("pulled_in") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "drawer" ADD CONSTRAINT "drawer_order_line_id_order_lines_id_fk" FOREIGN KEY ("order_line_id") REFERENCES "public"."order_lines"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "drawer" ADD CONSTRAINT "drawer_gone_job_jobs_id_fk" FOREIGN KEY ("gone_job") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "drawer_in_house" ON "drawer" USING btree ("label","id") WHERE gone is null;--> statement-breakpoint
CREATE INDEX "drawer_gone" ON "drawer" USING btree ("gone_at" DESC NULLS LAST,"id") WHERE gone is not null;--> statement-breakpoint
CREATE INDEX "drawer_label_words" ON "drawer" USING gin ("label" gin_trgm_ops);