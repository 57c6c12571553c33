/*M!999999\- enable the sandbox mode */ 
-- MariaDB dump 10.19  Distrib 10.11.19-MariaDB, for debian-linux-gnu (x86_64)
--
-- Host: 127.0.0.1    Database: tallystick
-- ------------------------------------------------------
-- Server version	10.11.19-MariaDB-0+deb12u1

/*!40101 SET @OLD_CHARACTER_SET_CLIENT=@@CHARACTER_SET_CLIENT */;
/*!40101 SET @OLD_CHARACTER_SET_RESULTS=@@CHARACTER_SET_RESULTS */;
/*!40101 SET @OLD_COLLATION_CONNECTION=@@COLLATION_CONNECTION */;
/*!40101 SET NAMES utf8mb4 */;
/*!40103 SET @OLD_TIME_ZONE=@@TIME_ZONE */;
/*!40103 SET TIME_ZONE='+00:00' */;
/*!40014 SET @OLD_UNIQUE_CHECKS=@@UNIQUE_CHECKS, UNIQUE_CHECKS=0 */;
/*!40014 SET @OLD_FOREIGN_KEY_CHECKS=@@FOREIGN_KEY_CHECKS, FOREIGN_KEY_CHECKS=0 */;
/*!40101 SET @OLD_SQL_MODE=@@SQL_MODE, SQL_MODE='NO_AUTO_VALUE_ON_ZERO' */;
/*!40111 SET @OLD_SQL_NOTES=@@SQL_NOTES, SQL_NOTES=0 */;

--
-- Table structure for table `address`
--

DROP TABLE IF EXISTS `address`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `address` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `version` int(10) unsigned NOT NULL DEFAULT 1,
  `supporter_id` int(10) unsigned NOT NULL,
  `street` varchar(200) NOT NULL,
  `city` varchar(100) NOT NULL,
  `region` varchar(60) NOT NULL,
  `postal` varchar(20) NOT NULL,
  `country` varchar(60) NOT NULL,
  `label` varchar(40) NOT NULL,
  `preferred` tinyint(4) NOT NULL,
  PRIMARY KEY (`id`),
  KEY `address_facts` (`supporter_id`,`preferred`,`region`),
  CONSTRAINT `address_ibfk_1` FOREIGN KEY (`supporter_id`) REFERENCES `supporter` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=48 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `address`
--

LOCK TABLES `address` WRITE;
/*!40000 ALTER TABLE `address` DISABLE KEYS */;
INSERT INTO `address` VALUES
(1,1,10001,'508 Tansy Avenue','Basin Wells','NV','89976','','home',1),
(2,1,10003,'111 Silver Spur Trail','Tansy Creek','NV','89935','','home',1),
(3,1,10004,'351 Juniper Street','Red Mesa Junction','AZ','86029','','home',1),
(4,1,10005,'220 Old Mill Road','Point Almira','CA','94988','','home',1),
(5,1,10006,'340 Observatory Road','Tansy Creek','NV','89902','','home',1),
(6,1,10007,'721 Juniper Street','Tansy Creek','NV','89967','','home',1),
(7,1,10008,'725 Playa Drive','Tansy Creek','NV','89915','','home',1),
(8,1,10009,'503 Sagebrush Lane','Red Mesa Junction','AZ','86063','','home',1),
(9,1,10010,'158 Old Mill Road','Saltgrass','UT','84728','','home',1),
(10,1,10011,'639 Silver Spur Trail','Tansy Creek','NV','89909','','home',1),
(11,1,10012,'74 Silver Spur Trail','Saltgrass','UT','84786','','home',1),
(12,1,10013,'332 Playa Drive','Saltgrass','UT','84761','','home',1),
(13,1,10014,'742 Ridgeline Court','Tansy Creek','NV','89954','','home',1),
(14,1,10015,'381 Silver Spur Trail','Basin Wells','NV','89983','','home',1),
(15,1,10016,'594 Ridgeline Court','Tansy Creek','NV','89986','','home',1),
(16,1,10018,'505 Cottonwood Way','Tansy Creek','NV','89923','','home',1),
(17,1,10019,'791 Juniper Street','Alkali Ford','NV','89776','','home',1),
(18,1,10020,'327 Cottonwood Way','Basin Wells','NV','89929','','home',1),
(19,1,10021,'550 Main Street','Tansy Creek','NV','89969','','home',1),
(20,1,10022,'282 Sagebrush Lane','Tansy Creek','NV','89958','','home',1),
(21,1,10023,'22 Old Mill Road','Lantern Flats','NV','89823','','home',1),
(22,1,10025,'658 Sagebrush Lane','Sparrow Hill','CA','95957','','home',1),
(23,1,10026,'733 Juniper Street','Red Mesa Junction','AZ','86082','','home',1),
(24,1,10027,'341 Lantern Hill','Tansy Creek','NV','89978','','home',1),
(25,1,10028,'503 Main Street','Basin Wells','NV','89940','','home',1),
(26,1,10029,'694 Ridgeline Court','Tansy Creek','NV','89976','','home',1),
(27,1,10030,'71 Main Street','Tansy Creek','NV','89926','','home',1),
(28,1,10031,'295 Tansy Avenue','Basin Wells','NV','89993','','home',1),
(29,1,10032,'932 Observatory Road','Tansy Creek','NV','89936','','home',1),
(30,1,10033,'12 Juniper Street','Lantern Flats','NV','89875','','home',1),
(31,1,10034,'755 Cottonwood Way','Basin Wells','NV','89973','','home',1),
(32,1,10035,'901 Main Street','Tansy Creek','NV','89963','','home',1),
(33,1,10036,'399 Cottonwood Way','Sparrow Hill','CA','95909','','home',1),
(34,1,10037,'587 Perseid Place','Sparrow Hill','CA','95959','','home',1),
(35,1,10038,'675 Observatory Road','Tansy Creek','NV','89903','','home',1),
(36,1,10039,'837 Old Mill Road','Point Almira','CA','94986','','home',1),
(37,1,10040,'642 Observatory Road','Alkali Ford','NV','89776','','home',1),
(38,1,10041,'198 Tansy Avenue','Basin Wells','NV','89964','','home',1),
(39,1,10042,'955 Playa Drive','Fircone','OR','97731','','home',1),
(40,1,10043,'891 Tansy Avenue','Tansy Creek','NV','89920','','home',1),
(41,1,10044,'115 Juniper Street','Lantern Flats','NV','89886','','home',1),
(42,1,10045,'799 Observatory Road','Basin Wells','NV','89994','','home',1),
(43,1,10046,'379 Sagebrush Lane','Point Almira','CA','94965','','home',1),
(44,1,10047,'681 Main Street','Tansy Creek','NV','89916','','home',1),
(45,1,10048,'341 Lantern Hill','Tansy Creek','NV','89978','','home',1),
(46,1,10049,'814 Tansy Avenue','Tansy Creek','NV','89920','','home',1),
(47,1,10050,'111 Lantern Hill','Tansy Creek','NV','89983','','home',1);
/*!40000 ALTER TABLE `address` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `api_token`
--

DROP TABLE IF EXISTS `api_token`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `api_token` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `name` varchar(120) NOT NULL,
  `role` varchar(20) NOT NULL,
  `token_hash` char(64) NOT NULL,
  `created_at` datetime(3) NOT NULL,
  `last_used_at` datetime(3) DEFAULT NULL,
  `revoked` tinyint(4) NOT NULL DEFAULT 0,
  PRIMARY KEY (`id`),
  UNIQUE KEY `token_hash` (`token_hash`)
) ENGINE=InnoDB AUTO_INCREMENT=2 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `api_token`
--

LOCK TABLES `api_token` WRITE;
/*!40000 ALTER TABLE `api_token` DISABLE KEYS */;
INSERT INTO `api_token` VALUES
(1,'feed','read','a6619be0c9018f7dcb1cfe40e16390cca4cefb0a08cfdfec4893f2c507ceb99c','2026-11-23 06:57:31.518',NULL,0);
/*!40000 ALTER TABLE `api_token` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `appeal`
--

DROP TABLE IF EXISTS `appeal`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `appeal` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `version` int(10) unsigned NOT NULL DEFAULT 1,
  `code` varchar(30) NOT NULL,
  `name` varchar(120) NOT NULL,
  `closed` tinyint(4) NOT NULL DEFAULT 0,
  `campaign_id` int(10) unsigned DEFAULT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `code` (`code`),
  KEY `campaign_id` (`campaign_id`),
  CONSTRAINT `appeal_ibfk_1` FOREIGN KEY (`campaign_id`) REFERENCES `campaign` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `appeal`
--

LOCK TABLES `appeal` WRITE;
/*!40000 ALTER TABLE `appeal` DISABLE KEYS */;
/*!40000 ALTER TABLE `appeal` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `campaign`
--

DROP TABLE IF EXISTS `campaign`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `campaign` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `version` int(10) unsigned NOT NULL DEFAULT 1,
  `code` varchar(30) NOT NULL,
  `name` varchar(120) NOT NULL,
  `closed` tinyint(4) NOT NULL DEFAULT 0,
  PRIMARY KEY (`id`),
  UNIQUE KEY `code` (`code`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `campaign`
--

LOCK TABLES `campaign` WRITE;
/*!40000 ALTER TABLE `campaign` DISABLE KEYS */;
/*!40000 ALTER TABLE `campaign` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `change_row`
--

DROP TABLE IF EXISTS `change_row`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `change_row` (
  `revision` bigint(20) NOT NULL,
  `seq` int(11) NOT NULL,
  `table_name` varchar(40) NOT NULL,
  `row_id` int(10) unsigned NOT NULL,
  `supporter_id` int(10) unsigned DEFAULT NULL,
  `before_json` mediumtext DEFAULT NULL,
  `after_json` mediumtext DEFAULT NULL,
  PRIMARY KEY (`revision`,`seq`),
  KEY `change_row_row` (`table_name`,`row_id`,`revision`),
  KEY `change_row_supporter` (`supporter_id`,`revision`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `change_row`
--

LOCK TABLES `change_row` WRITE;
/*!40000 ALTER TABLE `change_row` DISABLE KEYS */;
INSERT INTO `change_row` VALUES
(1,1,'fund',1,NULL,NULL,'{\"code\":\"GEN\",\"name\":\"General\",\"closed\":0,\"id\":1}'),
(1,2,'letter',1,NULL,NULL,'{\"name\":\"Thank you with receipt\",\"subject\":\"Thank you for your gift to {organization}\",\"body\":\"{\\\"type\\\":\\\"doc\\\",\\\"content\\\":[{\\\"type\\\":\\\"paragraph\\\",\\\"content\\\":[{\\\"type\\\":\\\"text\\\",\\\"text\\\":\\\"Dear \\\"},{\\\"type\\\":\\\"mergeField\\\",\\\"attrs\\\":{\\\"field\\\":\\\"salutation\\\",\\\"fallback\\\":\\\"friend\\\"}},{\\\"type\\\":\\\"text\\\",\\\"text\\\":\\\",\\\"}]},{\\\"type\\\":\\\"paragraph\\\",\\\"content\\\":[{\\\"type\\\":\\\"text\\\",\\\"text\\\":\\\"Thank you for your gift of \\\"},{\\\"type\\\":\\\"mergeField\\\",\\\"attrs\\\":{\\\"field\\\":\\\"giftAmount\\\",\\\"fallback\\\":\\\"\\\"}},{\\\"type\\\":\\\"text\\\",\\\"text\\\":\\\" on \\\"},{\\\"type\\\":\\\"mergeField\\\",\\\"attrs\\\":{\\\"field\\\":\\\"giftDate\\\",\\\"fallback\\\":\\\"\\\"}},{\\\"type\\\":\\\"text\\\",\\\"text\\\":\\\" to \\\"},{\\\"type\\\":\\\"mergeField\\\",\\\"attrs\\\":{\\\"field\\\":\\\"fund\\\",\\\"fallback\\\":\\\"\\\"}},{\\\"type\\\":\\\"text\\\",\\\"text\\\":\\\". Because of you the basin stays dark enough to read by starlight.\\\"}]},{\\\"type\\\":\\\"paragraph\\\",\\\"content\\\":[{\\\"type\\\":\\\"text\\\",\\\"text\\\":\\\"This year the telescope van has stopped at thirty-one schools, and every one of those evenings was paid for by people like you.\\\"}]},{\\\"type\\\":\\\"paragraph\\\",\\\"content\\\":[{\\\"type\\\":\\\"text\\\",\\\"text\\\":\\\"With clear skies,\\\"}]},{\\\"type\\\":\\\"paragraph\\\",\\\"content\\\":[{\\\"type\\\":\\\"text\\\",\\\"text\\\":\\\"The Conservancy at Tansy Creek\\\"}]}]}\",\"id\":1}');
/*!40000 ALTER TABLE `change_row` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `change_set`
--

DROP TABLE IF EXISTS `change_set`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `change_set` (
  `revision` bigint(20) NOT NULL,
  `at` datetime(3) NOT NULL,
  `user_id` int(10) unsigned DEFAULT NULL,
  `actor` varchar(120) NOT NULL,
  `kind` varchar(20) NOT NULL,
  `summary` varchar(300) NOT NULL,
  `row_count` int(11) NOT NULL,
  `undoes` bigint(20) DEFAULT NULL,
  `undone_by` bigint(20) DEFAULT NULL,
  `idem_key` varchar(190) DEFAULT NULL,
  `idem_hash` char(64) DEFAULT NULL,
  `result` mediumtext DEFAULT NULL,
  PRIMARY KEY (`revision`),
  UNIQUE KEY `idem_key` (`idem_key`),
  KEY `change_set_user` (`user_id`,`revision`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `change_set`
--

LOCK TABLES `change_set` WRITE;
/*!40000 ALTER TABLE `change_set` DISABLE KEYS */;
INSERT INTO `change_set` VALUES
(1,'2026-11-23 06:57:19.743',NULL,'Tallystick','load','Set up an empty organization',2,NULL,NULL,NULL,NULL,NULL),
(2,'2026-11-23 06:57:19.815',NULL,'Tallystick','load','Loaded 50 supporters and 400 gifts for measuring',0,NULL,NULL,NULL,NULL,NULL),
(3,'2026-11-23 06:57:21.786',NULL,'the command line','account','Made the user Bo Farrow',0,NULL,NULL,NULL,NULL,NULL),
(4,'2026-11-23 06:57:31.517',NULL,'the command line','account','Made the API token feed',0,NULL,NULL,NULL,NULL,NULL);
/*!40000 ALTER TABLE `change_set` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `change_touch`
--

DROP TABLE IF EXISTS `change_touch`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `change_touch` (
  `revision` bigint(20) NOT NULL,
  `supporter_id` int(10) unsigned NOT NULL,
  PRIMARY KEY (`revision`,`supporter_id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `change_touch`
--

LOCK TABLES `change_touch` WRITE;
/*!40000 ALTER TABLE `change_touch` DISABLE KEYS */;
/*!40000 ALTER TABLE `change_touch` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `counter`
--

DROP TABLE IF EXISTS `counter`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `counter` (
  `name` varchar(40) NOT NULL,
  `value` bigint(20) NOT NULL,
  PRIMARY KEY (`name`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `counter`
--

LOCK TABLES `counter` WRITE;
/*!40000 ALTER TABLE `counter` DISABLE KEYS */;
INSERT INTO `counter` VALUES
('revision',4);
/*!40000 ALTER TABLE `counter` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `delivery`
--

DROP TABLE IF EXISTS `delivery`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `delivery` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `version` int(10) unsigned NOT NULL DEFAULT 1,
  `supporter_id` int(10) unsigned NOT NULL,
  `mailing_id` int(10) unsigned DEFAULT NULL,
  `receipt_id` int(10) unsigned DEFAULT NULL,
  `issue_run_id` int(10) unsigned DEFAULT NULL,
  `channel` varchar(8) NOT NULL,
  `address` varchar(254) NOT NULL,
  `subject` varchar(200) NOT NULL,
  `state` varchar(12) NOT NULL,
  `detail` varchar(500) NOT NULL DEFAULT '',
  `at` datetime(3) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `delivery_receipt` (`receipt_id`),
  KEY `delivery_supporter` (`supporter_id`,`at`),
  KEY `delivery_mailing` (`mailing_id`,`state`,`id`),
  KEY `delivery_run` (`issue_run_id`,`state`,`id`),
  CONSTRAINT `delivery_ibfk_1` FOREIGN KEY (`supporter_id`) REFERENCES `supporter` (`id`),
  CONSTRAINT `delivery_ibfk_2` FOREIGN KEY (`mailing_id`) REFERENCES `mailing` (`id`),
  CONSTRAINT `delivery_ibfk_3` FOREIGN KEY (`receipt_id`) REFERENCES `receipt` (`id`),
  CONSTRAINT `delivery_ibfk_4` FOREIGN KEY (`issue_run_id`) REFERENCES `issue_run` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `delivery`
--

LOCK TABLES `delivery` WRITE;
/*!40000 ALTER TABLE `delivery` DISABLE KEYS */;
/*!40000 ALTER TABLE `delivery` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `email`
--

DROP TABLE IF EXISTS `email`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `email` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `version` int(10) unsigned NOT NULL DEFAULT 1,
  `supporter_id` int(10) unsigned NOT NULL,
  `address` varchar(254) NOT NULL,
  `label` varchar(40) NOT NULL,
  `preferred` tinyint(4) NOT NULL,
  `bounced_on` date DEFAULT NULL,
  PRIMARY KEY (`id`),
  KEY `email_supporter` (`supporter_id`),
  KEY `email_address` (`address`),
  CONSTRAINT `email_ibfk_1` FOREIGN KEY (`supporter_id`) REFERENCES `supporter` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=41 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `email`
--

LOCK TABLES `email` WRITE;
/*!40000 ALTER TABLE `email` DISABLE KEYS */;
INSERT INTO `email` VALUES
(1,1,10001,'quentin.ironside0@bounce.example.net','home',1,NULL),
(2,1,10004,'renee.ibarra3@example.org','home',1,NULL),
(3,1,10006,'augustin.saltmarsh5@example.com','home',1,NULL),
(4,1,10007,'theyellowhorsefamily6@example.org','home',1,NULL),
(5,1,10008,'jasper.zapata7@example.net','home',1,NULL),
(6,1,10009,'yarrowdiner8@example.net','home',1,NULL),
(7,1,10011,'william.juarez10@example.org','home',1,NULL),
(8,1,10012,'farrowfoundation11@example.com','home',1,NULL),
(9,1,10013,'theapplegarthfamily12@bounce.example.net','home',1,NULL),
(10,1,10014,'odalys.hartsock13@example.org','home',1,NULL),
(11,1,10015,'verity.pemberly14@example.org','home',1,NULL),
(12,1,10016,'callum.ibarra15@example.net','home',1,NULL),
(13,1,10017,'amos.nakagawa16@example.org','home',1,NULL),
(14,1,10018,'tindallgarage17@example.com','home',1,NULL),
(15,1,10020,'ezra.rookwood19@example.com','home',1,NULL),
(16,1,10021,'arlo.galindo20@example.net','home',1,NULL),
(17,1,10022,'gideon.kettleworth21@example.com','home',1,NULL),
(18,1,10023,'ximena.osgood22@bounce.example.net','home',1,NULL),
(19,1,10024,'fern.northcott23@example.com','home',1,NULL),
(20,1,10025,'renee.eklund24@example.net','home',1,NULL),
(21,1,10026,'ohallorangarage25@example.net','home',1,NULL),
(22,1,10027,'gideon.fennimore26@example.com','home',1,NULL),
(23,1,10028,'maeve.galindo27@example.org','home',1,NULL),
(24,1,10029,'augustin.tindall28@example.com','home',1,NULL),
(25,1,10030,'mateo.underhill29@example.com','home',1,NULL),
(26,1,10031,'therookwoodfamily30@example.org','home',1,NULL),
(27,1,10032,'maeve.galindo27@example.org','home',1,NULL),
(28,1,10033,'thestavrosfamily32@example.com','home',1,NULL),
(29,1,10034,'silas.whitcomb33@example.org','home',1,NULL),
(30,1,10035,'rosalind.zelenko34@example.org','home',1,NULL),
(31,1,10036,'verity.lindqvist35@example.com','home',1,NULL),
(32,1,10038,'consuelo.tindall37@example.com','home',1,NULL),
(33,1,10039,'mateo.jorgensen38@example.com','home',1,NULL),
(34,1,10042,'arlo.usher41@example.org','home',1,NULL),
(35,1,10043,'yara.okonkwolind42@example.org','home',1,NULL),
(36,1,10044,'ximena.nakagawa43@example.net','home',1,NULL),
(37,1,10045,'zelenkooutfitters44@example.org','home',1,NULL),
(38,1,10046,'hedda.vandersloot45@example.org','home',1,NULL),
(39,1,10047,'paloma.nakagawa46@example.com','home',1,NULL),
(40,1,10049,'oren.lindqvist48@example.com','home',1,NULL);
/*!40000 ALTER TABLE `email` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `fund`
--

DROP TABLE IF EXISTS `fund`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `fund` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `version` int(10) unsigned NOT NULL DEFAULT 1,
  `code` varchar(30) NOT NULL,
  `name` varchar(120) NOT NULL,
  `closed` tinyint(4) NOT NULL DEFAULT 0,
  PRIMARY KEY (`id`),
  UNIQUE KEY `code` (`code`)
) ENGINE=InnoDB AUTO_INCREMENT=2 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `fund`
--

LOCK TABLES `fund` WRITE;
/*!40000 ALTER TABLE `fund` DISABLE KEYS */;
INSERT INTO `fund` VALUES
(1,1,'GEN','General',0);
/*!40000 ALTER TABLE `fund` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `gift`
--

DROP TABLE IF EXISTS `gift`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `gift` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `version` int(10) unsigned NOT NULL DEFAULT 1,
  `supporter_id` int(10) unsigned NOT NULL,
  `cents` bigint(20) NOT NULL,
  `currency` char(3) NOT NULL,
  `date` date NOT NULL,
  `fund_id` int(10) unsigned NOT NULL,
  `campaign_id` int(10) unsigned DEFAULT NULL,
  `appeal_id` int(10) unsigned DEFAULT NULL,
  `method` varchar(12) NOT NULL,
  `cheque` varchar(30) NOT NULL DEFAULT '',
  `reference` varchar(60) NOT NULL DEFAULT '',
  `note` varchar(1000) NOT NULL DEFAULT '',
  `acknowledged_on` date DEFAULT NULL,
  `intake_id` int(10) unsigned DEFAULT NULL,
  PRIMARY KEY (`id`),
  KEY `gift_facts` (`supporter_id`,`date`,`cents`,`fund_id`,`campaign_id`,`appeal_id`),
  KEY `gift_date` (`date`,`id`),
  KEY `gift_cents` (`cents`,`id`),
  KEY `gift_unthanked` (`acknowledged_on`,`date`,`id`),
  KEY `gift_reference` (`reference`),
  KEY `gift_fund` (`fund_id`,`date`,`supporter_id`,`cents`),
  KEY `campaign_id` (`campaign_id`),
  KEY `appeal_id` (`appeal_id`),
  CONSTRAINT `gift_ibfk_1` FOREIGN KEY (`supporter_id`) REFERENCES `supporter` (`id`),
  CONSTRAINT `gift_ibfk_2` FOREIGN KEY (`fund_id`) REFERENCES `fund` (`id`),
  CONSTRAINT `gift_ibfk_3` FOREIGN KEY (`campaign_id`) REFERENCES `campaign` (`id`),
  CONSTRAINT `gift_ibfk_4` FOREIGN KEY (`appeal_id`) REFERENCES `appeal` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=20401 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `gift`
--

LOCK TABLES `gift` WRITE;
/*!40000 ALTER TABLE `gift` DISABLE KEYS */;
INSERT INTO `gift` VALUES
(20001,1,10012,47200,'USD','2020-05-29',1,NULL,NULL,'cheque','1000','','','2026-11-22',NULL),
(20002,1,10013,43600,'USD','2019-11-06',1,NULL,NULL,'cheque','1001','','','2026-11-22',NULL),
(20003,1,10025,47200,'USD','2025-02-25',1,NULL,NULL,'cheque','1002','','','2026-11-22',NULL),
(20004,1,10008,12200,'USD','2020-02-25',1,NULL,NULL,'cheque','1003','','','2026-11-22',NULL),
(20005,1,10001,35900,'USD','2019-06-20',1,NULL,NULL,'cheque','1004','','','2026-11-22',NULL),
(20006,1,10006,19700,'USD','2019-02-05',1,NULL,NULL,'cheque','1005','','','2026-11-22',NULL),
(20007,1,10001,43200,'USD','2025-09-27',1,NULL,NULL,'cheque','1006','','','2026-11-22',NULL),
(20008,1,10022,10200,'USD','2021-09-23',1,NULL,NULL,'cheque','1007','','','2026-11-22',NULL),
(20009,1,10014,44500,'USD','2024-07-19',1,NULL,NULL,'cheque','1008','','','2026-11-22',NULL),
(20010,1,10005,19500,'USD','2020-08-10',1,NULL,NULL,'cheque','1009','','','2026-11-22',NULL),
(20011,1,10031,29300,'USD','2025-01-20',1,NULL,NULL,'cheque','1010','','','2026-11-22',NULL),
(20012,1,10007,12700,'USD','2026-07-10',1,NULL,NULL,'cheque','1011','','','2026-11-22',NULL),
(20013,1,10008,22900,'USD','2025-04-29',1,NULL,NULL,'cheque','1012','','','2026-11-22',NULL),
(20014,1,10001,2100,'USD','2026-07-31',1,NULL,NULL,'cheque','1013','','','2026-11-22',NULL),
(20015,1,10014,44500,'USD','2025-09-15',1,NULL,NULL,'cheque','1014','','','2026-11-22',NULL),
(20016,1,10045,4600,'USD','2022-06-11',1,NULL,NULL,'cheque','1015','','','2026-11-22',NULL),
(20017,1,10011,6300,'USD','2022-11-28',1,NULL,NULL,'cheque','1016','','','2026-11-22',NULL),
(20018,1,10001,29600,'USD','2021-03-23',1,NULL,NULL,'cheque','1017','','','2026-11-22',NULL),
(20019,1,10005,48700,'USD','2026-10-24',1,NULL,NULL,'cheque','1018','','','2026-11-22',NULL),
(20020,1,10010,4400,'USD','2019-08-30',1,NULL,NULL,'cheque','1019','','','2026-11-22',NULL),
(20021,1,10027,24600,'USD','2025-08-12',1,NULL,NULL,'cheque','1020','','','2026-11-22',NULL),
(20022,1,10022,43700,'USD','2021-11-22',1,NULL,NULL,'cheque','1021','','','2026-11-22',NULL),
(20023,1,10010,39100,'USD','2026-08-22',1,NULL,NULL,'cheque','1022','','','2026-11-22',NULL),
(20024,1,10015,39900,'USD','2019-07-27',1,NULL,NULL,'cheque','1023','','','2026-11-22',NULL),
(20025,1,10035,31600,'USD','2023-04-01',1,NULL,NULL,'cheque','1024','','','2026-11-22',NULL),
(20026,1,10028,24400,'USD','2021-04-07',1,NULL,NULL,'cheque','1025','','','2026-11-22',NULL),
(20027,1,10015,20200,'USD','2022-07-16',1,NULL,NULL,'cheque','1026','','','2026-11-22',NULL),
(20028,1,10016,13600,'USD','2026-01-17',1,NULL,NULL,'cheque','1027','','','2026-11-22',NULL),
(20029,1,10014,4700,'USD','2018-12-24',1,NULL,NULL,'cheque','1028','','','2026-11-22',NULL),
(20030,1,10042,34600,'USD','2020-04-02',1,NULL,NULL,'cheque','1029','','','2026-11-22',NULL),
(20031,1,10022,20100,'USD','2023-09-09',1,NULL,NULL,'cheque','1030','','','2026-11-22',NULL),
(20032,1,10032,15100,'USD','2022-01-17',1,NULL,NULL,'cheque','1031','','','2026-11-22',NULL),
(20033,1,10004,43100,'USD','2019-10-22',1,NULL,NULL,'cheque','1032','','','2026-11-22',NULL),
(20034,1,10023,48300,'USD','2023-05-01',1,NULL,NULL,'cheque','1033','','','2026-11-22',NULL),
(20035,1,10009,49300,'USD','2024-06-26',1,NULL,NULL,'cheque','1034','','','2026-11-22',NULL),
(20036,1,10017,26300,'USD','2022-08-30',1,NULL,NULL,'cheque','1035','','','2026-11-22',NULL),
(20037,1,10034,8900,'USD','2020-07-19',1,NULL,NULL,'cheque','1036','','','2026-11-22',NULL),
(20038,1,10005,22200,'USD','2022-10-06',1,NULL,NULL,'cheque','1037','','','2026-11-22',NULL),
(20039,1,10030,46600,'USD','2022-04-29',1,NULL,NULL,'cheque','1038','','','2026-11-22',NULL),
(20040,1,10005,27200,'USD','2020-07-23',1,NULL,NULL,'cheque','1039','','','2026-11-22',NULL),
(20041,1,10048,45000,'USD','2019-08-02',1,NULL,NULL,'cheque','1040','','','2026-11-22',NULL),
(20042,1,10006,41100,'USD','2022-03-11',1,NULL,NULL,'cheque','1041','','','2026-11-22',NULL),
(20043,1,10050,15500,'USD','2026-03-09',1,NULL,NULL,'cheque','1042','','','2026-11-22',NULL),
(20044,1,10009,14700,'USD','2024-10-24',1,NULL,NULL,'cheque','1043','','','2026-11-22',NULL),
(20045,1,10034,12900,'USD','2024-10-11',1,NULL,NULL,'cheque','1044','','','2026-11-22',NULL),
(20046,1,10039,5400,'USD','2024-08-09',1,NULL,NULL,'cheque','1045','','','2026-11-22',NULL),
(20047,1,10008,18300,'USD','2021-01-25',1,NULL,NULL,'cheque','1046','','','2026-11-22',NULL),
(20048,1,10010,46100,'USD','2026-06-25',1,NULL,NULL,'cheque','1047','','','2026-11-22',NULL),
(20049,1,10039,43400,'USD','2022-11-07',1,NULL,NULL,'cheque','1048','','','2026-11-22',NULL),
(20050,1,10025,27700,'USD','2023-12-09',1,NULL,NULL,'cheque','1049','','','2026-11-22',NULL),
(20051,1,10003,9500,'USD','2020-07-06',1,NULL,NULL,'cheque','1050','','','2026-11-22',NULL),
(20052,1,10004,45300,'USD','2026-09-11',1,NULL,NULL,'cheque','1051','','','2026-11-22',NULL),
(20053,1,10016,2000,'USD','2021-08-10',1,NULL,NULL,'cheque','1052','','','2026-11-22',NULL),
(20054,1,10012,30200,'USD','2026-10-04',1,NULL,NULL,'cheque','1053','','','2026-11-22',NULL),
(20055,1,10044,40200,'USD','2020-07-16',1,NULL,NULL,'cheque','1054','','','2026-11-22',NULL),
(20056,1,10025,6400,'USD','2026-08-29',1,NULL,NULL,'cheque','1055','','','2026-11-22',NULL),
(20057,1,10021,13900,'USD','2022-12-11',1,NULL,NULL,'cheque','1056','','','2026-11-22',NULL),
(20058,1,10018,38200,'USD','2025-06-06',1,NULL,NULL,'cheque','1057','','','2026-11-22',NULL),
(20059,1,10008,33200,'USD','2022-12-23',1,NULL,NULL,'cheque','1058','','','2026-11-22',NULL),
(20060,1,10001,35200,'USD','2021-04-15',1,NULL,NULL,'cheque','1059','','','2026-11-22',NULL),
(20061,1,10004,33600,'USD','2020-12-16',1,NULL,NULL,'cheque','1060','','','2026-11-22',NULL),
(20062,1,10047,18100,'USD','2023-10-28',1,NULL,NULL,'cheque','1061','','','2026-11-22',NULL),
(20063,1,10024,3100,'USD','2025-10-01',1,NULL,NULL,'cheque','1062','','','2026-11-22',NULL),
(20064,1,10041,34000,'USD','2019-02-20',1,NULL,NULL,'cheque','1063','','','2026-11-22',NULL),
(20065,1,10003,45800,'USD','2019-03-20',1,NULL,NULL,'cheque','1064','','','2026-11-22',NULL),
(20066,1,10032,5200,'USD','2020-12-24',1,NULL,NULL,'cheque','1065','','','2026-11-22',NULL),
(20067,1,10031,47200,'USD','2020-09-15',1,NULL,NULL,'cheque','1066','','','2026-11-22',NULL),
(20068,1,10016,30600,'USD','2025-02-28',1,NULL,NULL,'cheque','1067','','','2026-11-22',NULL),
(20069,1,10001,8200,'USD','2026-04-27',1,NULL,NULL,'cheque','1068','','','2026-11-22',NULL),
(20070,1,10009,49700,'USD','2022-01-07',1,NULL,NULL,'cheque','1069','','','2026-11-22',NULL),
(20071,1,10023,28900,'USD','2025-12-24',1,NULL,NULL,'cheque','1070','','','2026-11-22',NULL),
(20072,1,10008,18800,'USD','2023-01-04',1,NULL,NULL,'cheque','1071','','','2026-11-22',NULL),
(20073,1,10002,47800,'USD','2020-02-05',1,NULL,NULL,'cheque','1072','','','2026-11-22',NULL),
(20074,1,10016,22200,'USD','2022-07-24',1,NULL,NULL,'cheque','1073','','','2026-11-22',NULL),
(20075,1,10016,26300,'USD','2024-07-14',1,NULL,NULL,'cheque','1074','','','2026-11-22',NULL),
(20076,1,10017,24600,'USD','2024-04-04',1,NULL,NULL,'cheque','1075','','','2026-11-22',NULL),
(20077,1,10049,33100,'USD','2026-08-20',1,NULL,NULL,'cheque','1076','','','2026-11-22',NULL),
(20078,1,10010,40100,'USD','2021-11-09',1,NULL,NULL,'cheque','1077','','','2026-11-22',NULL),
(20079,1,10042,48200,'USD','2024-10-09',1,NULL,NULL,'cheque','1078','','','2026-11-22',NULL),
(20080,1,10005,14300,'USD','2024-06-26',1,NULL,NULL,'cheque','1079','','','2026-11-22',NULL),
(20081,1,10015,27000,'USD','2026-01-01',1,NULL,NULL,'cheque','1080','','','2026-11-22',NULL),
(20082,1,10011,11800,'USD','2025-06-30',1,NULL,NULL,'cheque','1081','','','2026-11-22',NULL),
(20083,1,10014,34300,'USD','2025-11-08',1,NULL,NULL,'cheque','1082','','','2026-11-22',NULL),
(20084,1,10001,39000,'USD','2020-12-01',1,NULL,NULL,'cheque','1083','','','2026-11-22',NULL),
(20085,1,10006,40500,'USD','2024-05-04',1,NULL,NULL,'cheque','1084','','','2026-11-22',NULL),
(20086,1,10007,32100,'USD','2019-11-14',1,NULL,NULL,'cheque','1085','','','2026-11-22',NULL),
(20087,1,10005,24000,'USD','2026-02-11',1,NULL,NULL,'cheque','1086','','','2026-11-22',NULL),
(20088,1,10036,21200,'USD','2024-10-17',1,NULL,NULL,'cheque','1087','','','2026-11-22',NULL),
(20089,1,10023,21300,'USD','2023-07-23',1,NULL,NULL,'cheque','1088','','','2026-11-22',NULL),
(20090,1,10010,33200,'USD','2026-02-11',1,NULL,NULL,'cheque','1089','','','2026-11-22',NULL),
(20091,1,10012,27700,'USD','2021-07-28',1,NULL,NULL,'cheque','1090','','','2026-11-22',NULL),
(20092,1,10011,33000,'USD','2020-08-19',1,NULL,NULL,'cheque','1091','','','2026-11-22',NULL),
(20093,1,10008,9400,'USD','2024-09-28',1,NULL,NULL,'cheque','1092','','','2026-11-22',NULL),
(20094,1,10028,30400,'USD','2023-11-27',1,NULL,NULL,'cheque','1093','','','2026-11-22',NULL),
(20095,1,10015,10900,'USD','2020-09-27',1,NULL,NULL,'cheque','1094','','','2026-11-22',NULL),
(20096,1,10024,49000,'USD','2026-10-12',1,NULL,NULL,'cheque','1095','','','2026-11-22',NULL),
(20097,1,10004,28600,'USD','2021-02-24',1,NULL,NULL,'cheque','1096','','','2026-11-22',NULL),
(20098,1,10002,15600,'USD','2022-09-01',1,NULL,NULL,'cheque','1097','','','2026-11-22',NULL),
(20099,1,10028,7500,'USD','2022-06-24',1,NULL,NULL,'cheque','1098','','','2026-11-22',NULL),
(20100,1,10003,30200,'USD','2019-01-06',1,NULL,NULL,'cheque','1099','','','2026-11-22',NULL),
(20101,1,10004,28500,'USD','2022-09-15',1,NULL,NULL,'cheque','1100','','','2026-11-22',NULL),
(20102,1,10045,12900,'USD','2022-01-12',1,NULL,NULL,'cheque','1101','','','2026-11-22',NULL),
(20103,1,10009,43000,'USD','2020-03-11',1,NULL,NULL,'cheque','1102','','','2026-11-22',NULL),
(20104,1,10015,42500,'USD','2023-10-25',1,NULL,NULL,'cheque','1103','','','2026-11-22',NULL),
(20105,1,10020,36400,'USD','2025-05-20',1,NULL,NULL,'cheque','1104','','','2026-11-22',NULL),
(20106,1,10015,4900,'USD','2023-06-02',1,NULL,NULL,'cheque','1105','','','2026-11-22',NULL),
(20107,1,10014,12100,'USD','2026-05-01',1,NULL,NULL,'cheque','1106','','','2026-11-22',NULL),
(20108,1,10022,600,'USD','2022-09-23',1,NULL,NULL,'cheque','1107','','','2026-11-22',NULL),
(20109,1,10019,13900,'USD','2021-01-06',1,NULL,NULL,'cheque','1108','','','2026-11-22',NULL),
(20110,1,10013,27300,'USD','2019-02-12',1,NULL,NULL,'cheque','1109','','','2026-11-22',NULL),
(20111,1,10048,7400,'USD','2023-09-04',1,NULL,NULL,'cheque','1110','','','2026-11-22',NULL),
(20112,1,10014,45100,'USD','2021-04-06',1,NULL,NULL,'cheque','1111','','','2026-11-22',NULL),
(20113,1,10034,41900,'USD','2024-10-11',1,NULL,NULL,'cheque','1112','','','2026-11-22',NULL),
(20114,1,10001,38600,'USD','2023-01-09',1,NULL,NULL,'cheque','1113','','','2026-11-22',NULL),
(20115,1,10002,43600,'USD','2021-07-27',1,NULL,NULL,'cheque','1114','','','2026-11-22',NULL),
(20116,1,10037,4700,'USD','2022-09-04',1,NULL,NULL,'cheque','1115','','','2026-11-22',NULL),
(20117,1,10008,2400,'USD','2023-03-23',1,NULL,NULL,'cheque','1116','','','2026-11-22',NULL),
(20118,1,10047,32400,'USD','2024-09-12',1,NULL,NULL,'cheque','1117','','','2026-11-22',NULL),
(20119,1,10005,18200,'USD','2023-02-08',1,NULL,NULL,'cheque','1118','','','2026-11-22',NULL),
(20120,1,10041,13000,'USD','2025-07-04',1,NULL,NULL,'cheque','1119','','','2026-11-22',NULL),
(20121,1,10046,7100,'USD','2024-09-10',1,NULL,NULL,'cheque','1120','','','2026-11-22',NULL),
(20122,1,10023,16400,'USD','2021-01-08',1,NULL,NULL,'cheque','1121','','','2026-11-22',NULL),
(20123,1,10008,28200,'USD','2025-06-14',1,NULL,NULL,'cheque','1122','','','2026-11-22',NULL),
(20124,1,10004,900,'USD','2024-01-18',1,NULL,NULL,'cheque','1123','','','2026-11-22',NULL),
(20125,1,10030,26500,'USD','2018-12-27',1,NULL,NULL,'cheque','1124','','','2026-11-22',NULL),
(20126,1,10042,40200,'USD','2023-04-14',1,NULL,NULL,'cheque','1125','','','2026-11-22',NULL),
(20127,1,10015,34200,'USD','2020-06-08',1,NULL,NULL,'cheque','1126','','','2026-11-22',NULL),
(20128,1,10009,36300,'USD','2022-11-08',1,NULL,NULL,'cheque','1127','','','2026-11-22',NULL),
(20129,1,10004,10200,'USD','2020-01-11',1,NULL,NULL,'cheque','1128','','','2026-11-22',NULL),
(20130,1,10020,24800,'USD','2021-02-28',1,NULL,NULL,'cheque','1129','','','2026-11-22',NULL),
(20131,1,10026,19100,'USD','2023-11-23',1,NULL,NULL,'cheque','1130','','','2026-11-22',NULL),
(20132,1,10026,41500,'USD','2024-01-27',1,NULL,NULL,'cheque','1131','','','2026-11-22',NULL),
(20133,1,10019,36800,'USD','2021-10-09',1,NULL,NULL,'cheque','1132','','','2026-11-22',NULL),
(20134,1,10041,26600,'USD','2023-11-11',1,NULL,NULL,'cheque','1133','','','2026-11-22',NULL),
(20135,1,10009,24400,'USD','2023-06-24',1,NULL,NULL,'cheque','1134','','','2026-11-22',NULL),
(20136,1,10005,36400,'USD','2020-05-09',1,NULL,NULL,'cheque','1135','','','2026-11-22',NULL),
(20137,1,10010,8100,'USD','2024-10-09',1,NULL,NULL,'cheque','1136','','','2026-11-22',NULL),
(20138,1,10003,34400,'USD','2024-05-27',1,NULL,NULL,'cheque','1137','','','2026-11-22',NULL),
(20139,1,10018,7800,'USD','2025-09-14',1,NULL,NULL,'cheque','1138','','','2026-11-22',NULL),
(20140,1,10025,44000,'USD','2020-07-16',1,NULL,NULL,'cheque','1139','','','2026-11-22',NULL),
(20141,1,10042,22400,'USD','2023-04-19',1,NULL,NULL,'cheque','1140','','','2026-11-22',NULL),
(20142,1,10045,43700,'USD','2019-06-26',1,NULL,NULL,'cheque','1141','','','2026-11-22',NULL),
(20143,1,10048,20200,'USD','2023-12-20',1,NULL,NULL,'cheque','1142','','','2026-11-22',NULL),
(20144,1,10016,29500,'USD','2022-02-28',1,NULL,NULL,'cheque','1143','','','2026-11-22',NULL),
(20145,1,10036,11100,'USD','2022-05-18',1,NULL,NULL,'cheque','1144','','','2026-11-22',NULL),
(20146,1,10014,8500,'USD','2018-12-25',1,NULL,NULL,'cheque','1145','','','2026-11-22',NULL),
(20147,1,10047,38200,'USD','2023-08-05',1,NULL,NULL,'cheque','1146','','','2026-11-22',NULL),
(20148,1,10015,9700,'USD','2022-12-26',1,NULL,NULL,'cheque','1147','','','2026-11-22',NULL),
(20149,1,10022,22100,'USD','2025-07-26',1,NULL,NULL,'cheque','1148','','','2026-11-22',NULL),
(20150,1,10029,47500,'USD','2021-04-18',1,NULL,NULL,'cheque','1149','','','2026-11-22',NULL),
(20151,1,10004,7500,'USD','2019-07-10',1,NULL,NULL,'cheque','1150','','','2026-11-22',NULL),
(20152,1,10049,9700,'USD','2022-03-18',1,NULL,NULL,'cheque','1151','','','2026-11-22',NULL),
(20153,1,10047,33600,'USD','2021-02-08',1,NULL,NULL,'cheque','1152','','','2026-11-22',NULL),
(20154,1,10021,10100,'USD','2020-01-02',1,NULL,NULL,'cheque','1153','','','2026-11-22',NULL),
(20155,1,10010,8300,'USD','2021-08-15',1,NULL,NULL,'cheque','1154','','','2026-11-22',NULL),
(20156,1,10004,21900,'USD','2024-09-27',1,NULL,NULL,'cheque','1155','','','2026-11-22',NULL),
(20157,1,10002,30700,'USD','2024-08-09',1,NULL,NULL,'cheque','1156','','','2026-11-22',NULL),
(20158,1,10028,46300,'USD','2022-07-09',1,NULL,NULL,'cheque','1157','','','2026-11-22',NULL),
(20159,1,10013,23800,'USD','2024-04-03',1,NULL,NULL,'cheque','1158','','','2026-11-22',NULL),
(20160,1,10005,9800,'USD','2020-12-08',1,NULL,NULL,'cheque','1159','','','2026-11-22',NULL),
(20161,1,10020,29200,'USD','2020-05-12',1,NULL,NULL,'cheque','1160','','','2026-11-22',NULL),
(20162,1,10001,37800,'USD','2024-07-21',1,NULL,NULL,'cheque','1161','','','2026-11-22',NULL),
(20163,1,10008,8400,'USD','2019-04-09',1,NULL,NULL,'cheque','1162','','','2026-11-22',NULL),
(20164,1,10001,2200,'USD','2025-12-05',1,NULL,NULL,'cheque','1163','','','2026-11-22',NULL),
(20165,1,10002,15900,'USD','2026-03-30',1,NULL,NULL,'cheque','1164','','','2026-11-22',NULL),
(20166,1,10005,33900,'USD','2025-04-26',1,NULL,NULL,'cheque','1165','','','2026-11-22',NULL),
(20167,1,10029,3600,'USD','2022-04-03',1,NULL,NULL,'cheque','1166','','','2026-11-22',NULL),
(20168,1,10001,9700,'USD','2019-10-04',1,NULL,NULL,'cheque','1167','','','2026-11-22',NULL),
(20169,1,10009,16100,'USD','2026-10-28',1,NULL,NULL,'cheque','1168','','','2026-11-22',NULL),
(20170,1,10009,41100,'USD','2022-08-02',1,NULL,NULL,'cheque','1169','','','2026-11-22',NULL),
(20171,1,10009,1800,'USD','2019-05-10',1,NULL,NULL,'cheque','1170','','','2026-11-22',NULL),
(20172,1,10006,7400,'USD','2023-11-23',1,NULL,NULL,'cheque','1171','','','2026-11-22',NULL),
(20173,1,10018,5300,'USD','2026-09-01',1,NULL,NULL,'cheque','1172','','','2026-11-22',NULL),
(20174,1,10004,13600,'USD','2024-07-25',1,NULL,NULL,'cheque','1173','','','2026-11-22',NULL),
(20175,1,10001,38700,'USD','2019-11-07',1,NULL,NULL,'cheque','1174','','','2026-11-22',NULL),
(20176,1,10047,46600,'USD','2024-11-08',1,NULL,NULL,'cheque','1175','','','2026-11-22',NULL),
(20177,1,10023,9800,'USD','2026-07-20',1,NULL,NULL,'cheque','1176','','','2026-11-22',NULL),
(20178,1,10024,19900,'USD','2024-05-26',1,NULL,NULL,'cheque','1177','','','2026-11-22',NULL),
(20179,1,10044,28000,'USD','2025-03-08',1,NULL,NULL,'cheque','1178','','','2026-11-22',NULL),
(20180,1,10014,28700,'USD','2022-01-31',1,NULL,NULL,'cheque','1179','','','2026-11-22',NULL),
(20181,1,10006,8500,'USD','2022-02-15',1,NULL,NULL,'cheque','1180','','','2026-11-22',NULL),
(20182,1,10014,27900,'USD','2018-12-24',1,NULL,NULL,'cheque','1181','','','2026-11-22',NULL),
(20183,1,10045,29500,'USD','2021-01-11',1,NULL,NULL,'cheque','1182','','','2026-11-22',NULL),
(20184,1,10012,9200,'USD','2019-11-01',1,NULL,NULL,'cheque','1183','','','2026-11-22',NULL),
(20185,1,10040,32500,'USD','2020-01-23',1,NULL,NULL,'cheque','1184','','','2026-11-22',NULL),
(20186,1,10046,9300,'USD','2024-02-09',1,NULL,NULL,'cheque','1185','','','2026-11-22',NULL),
(20187,1,10005,1300,'USD','2020-02-27',1,NULL,NULL,'cheque','1186','','','2026-11-22',NULL),
(20188,1,10040,16200,'USD','2020-09-15',1,NULL,NULL,'cheque','1187','','','2026-11-22',NULL),
(20189,1,10035,29800,'USD','2019-11-20',1,NULL,NULL,'cheque','1188','','','2026-11-22',NULL),
(20190,1,10001,39200,'USD','2019-04-03',1,NULL,NULL,'cheque','1189','','','2026-11-22',NULL),
(20191,1,10024,11300,'USD','2023-12-04',1,NULL,NULL,'cheque','1190','','','2026-11-22',NULL),
(20192,1,10022,13500,'USD','2019-04-12',1,NULL,NULL,'cheque','1191','','','2026-11-22',NULL),
(20193,1,10001,17800,'USD','2021-03-15',1,NULL,NULL,'cheque','1192','','','2026-11-22',NULL),
(20194,1,10026,49900,'USD','2019-06-05',1,NULL,NULL,'cheque','1193','','','2026-11-22',NULL),
(20195,1,10009,35900,'USD','2019-01-31',1,NULL,NULL,'cheque','1194','','','2026-11-22',NULL),
(20196,1,10033,43000,'USD','2024-04-03',1,NULL,NULL,'cheque','1195','','','2026-11-22',NULL),
(20197,1,10021,17900,'USD','2021-11-04',1,NULL,NULL,'cheque','1196','','','2026-11-22',NULL),
(20198,1,10015,2400,'USD','2026-02-23',1,NULL,NULL,'cheque','1197','','','2026-11-22',NULL),
(20199,1,10027,10900,'USD','2025-01-26',1,NULL,NULL,'cheque','1198','','','2026-11-22',NULL),
(20200,1,10020,29800,'USD','2025-08-25',1,NULL,NULL,'cheque','1199','','','2026-11-22',NULL),
(20201,1,10047,49500,'USD','2024-10-22',1,NULL,NULL,'cheque','1200','','','2026-11-22',NULL),
(20202,1,10008,18800,'USD','2026-09-03',1,NULL,NULL,'cheque','1201','','','2026-11-22',NULL),
(20203,1,10008,3400,'USD','2021-03-25',1,NULL,NULL,'cheque','1202','','','2026-11-22',NULL),
(20204,1,10028,28800,'USD','2023-04-06',1,NULL,NULL,'cheque','1203','','','2026-11-22',NULL),
(20205,1,10019,39400,'USD','2023-08-04',1,NULL,NULL,'cheque','1204','','','2026-11-22',NULL),
(20206,1,10036,26000,'USD','2025-05-14',1,NULL,NULL,'cheque','1205','','','2026-11-22',NULL),
(20207,1,10011,1200,'USD','2025-04-28',1,NULL,NULL,'cheque','1206','','','2026-11-22',NULL),
(20208,1,10012,40700,'USD','2023-08-07',1,NULL,NULL,'cheque','1207','','','2026-11-22',NULL),
(20209,1,10003,41200,'USD','2019-05-28',1,NULL,NULL,'cheque','1208','','','2026-11-22',NULL),
(20210,1,10007,14500,'USD','2024-05-26',1,NULL,NULL,'cheque','1209','','','2026-11-22',NULL),
(20211,1,10005,44100,'USD','2026-05-14',1,NULL,NULL,'cheque','1210','','','2026-11-22',NULL),
(20212,1,10003,3900,'USD','2020-10-16',1,NULL,NULL,'cheque','1211','','','2026-11-22',NULL),
(20213,1,10035,42700,'USD','2019-05-19',1,NULL,NULL,'cheque','1212','','','2026-11-22',NULL),
(20214,1,10030,34600,'USD','2020-06-01',1,NULL,NULL,'cheque','1213','','','2026-11-22',NULL),
(20215,1,10001,42200,'USD','2025-12-21',1,NULL,NULL,'cheque','1214','','','2026-11-22',NULL),
(20216,1,10033,2500,'USD','2022-10-01',1,NULL,NULL,'cheque','1215','','','2026-11-22',NULL),
(20217,1,10020,31700,'USD','2022-02-17',1,NULL,NULL,'cheque','1216','','','2026-11-22',NULL),
(20218,1,10003,31400,'USD','2019-04-17',1,NULL,NULL,'cheque','1217','','','2026-11-22',NULL),
(20219,1,10006,1500,'USD','2021-06-10',1,NULL,NULL,'cheque','1218','','','2026-11-22',NULL),
(20220,1,10003,32700,'USD','2020-03-29',1,NULL,NULL,'cheque','1219','','','2026-11-22',NULL),
(20221,1,10014,29300,'USD','2023-06-07',1,NULL,NULL,'cheque','1220','','','2026-11-22',NULL),
(20222,1,10012,45600,'USD','2022-09-03',1,NULL,NULL,'cheque','1221','','','2026-11-22',NULL),
(20223,1,10002,43600,'USD','2021-02-04',1,NULL,NULL,'cheque','1222','','','2026-11-22',NULL),
(20224,1,10003,20500,'USD','2019-09-11',1,NULL,NULL,'cheque','1223','','','2026-11-22',NULL),
(20225,1,10016,38900,'USD','2023-06-09',1,NULL,NULL,'cheque','1224','','','2026-11-22',NULL),
(20226,1,10007,41300,'USD','2021-05-11',1,NULL,NULL,'cheque','1225','','','2026-11-22',NULL),
(20227,1,10014,18200,'USD','2019-01-05',1,NULL,NULL,'cheque','1226','','','2026-11-22',NULL),
(20228,1,10023,12100,'USD','2019-07-01',1,NULL,NULL,'cheque','1227','','','2026-11-22',NULL),
(20229,1,10012,35400,'USD','2021-11-22',1,NULL,NULL,'cheque','1228','','','2026-11-22',NULL),
(20230,1,10012,21900,'USD','2026-01-24',1,NULL,NULL,'cheque','1229','','','2026-11-22',NULL),
(20231,1,10004,49300,'USD','2019-05-26',1,NULL,NULL,'cheque','1230','','','2026-11-22',NULL),
(20232,1,10009,30600,'USD','2026-04-14',1,NULL,NULL,'cheque','1231','','','2026-11-22',NULL),
(20233,1,10003,20200,'USD','2023-07-09',1,NULL,NULL,'cheque','1232','','','2026-11-22',NULL),
(20234,1,10007,40000,'USD','2020-03-20',1,NULL,NULL,'cheque','1233','','','2026-11-22',NULL),
(20235,1,10021,3800,'USD','2023-09-14',1,NULL,NULL,'cheque','1234','','','2026-11-22',NULL),
(20236,1,10023,32500,'USD','2024-01-06',1,NULL,NULL,'cheque','1235','','','2026-11-22',NULL),
(20237,1,10038,43700,'USD','2025-08-23',1,NULL,NULL,'cheque','1236','','','2026-11-22',NULL),
(20238,1,10015,25500,'USD','2021-01-30',1,NULL,NULL,'cheque','1237','','','2026-11-22',NULL),
(20239,1,10045,26500,'USD','2022-01-24',1,NULL,NULL,'cheque','1238','','','2026-11-22',NULL),
(20240,1,10034,39500,'USD','2021-01-20',1,NULL,NULL,'cheque','1239','','','2026-11-22',NULL),
(20241,1,10017,23400,'USD','2026-08-21',1,NULL,NULL,'cheque','1240','','','2026-11-22',NULL),
(20242,1,10035,28100,'USD','2025-02-22',1,NULL,NULL,'cheque','1241','','','2026-11-22',NULL),
(20243,1,10008,7200,'USD','2025-10-26',1,NULL,NULL,'cheque','1242','','','2026-11-22',NULL),
(20244,1,10017,39600,'USD','2020-11-13',1,NULL,NULL,'cheque','1243','','','2026-11-22',NULL),
(20245,1,10041,12900,'USD','2023-04-06',1,NULL,NULL,'cheque','1244','','','2026-11-22',NULL),
(20246,1,10036,13400,'USD','2019-09-03',1,NULL,NULL,'cheque','1245','','','2026-11-22',NULL),
(20247,1,10001,43300,'USD','2020-10-11',1,NULL,NULL,'cheque','1246','','','2026-11-22',NULL),
(20248,1,10018,18200,'USD','2024-08-28',1,NULL,NULL,'cheque','1247','','','2026-11-22',NULL),
(20249,1,10005,21700,'USD','2025-11-24',1,NULL,NULL,'cheque','1248','','','2026-11-22',NULL),
(20250,1,10026,13900,'USD','2026-01-09',1,NULL,NULL,'cheque','1249','','','2026-11-22',NULL),
(20251,1,10042,12700,'USD','2021-07-24',1,NULL,NULL,'cheque','1250','','','2026-11-22',NULL),
(20252,1,10009,26700,'USD','2019-11-02',1,NULL,NULL,'cheque','1251','','','2026-11-22',NULL),
(20253,1,10008,43800,'USD','2024-03-11',1,NULL,NULL,'cheque','1252','','','2026-11-22',NULL),
(20254,1,10031,1600,'USD','2019-04-23',1,NULL,NULL,'cheque','1253','','','2026-11-22',NULL),
(20255,1,10025,7100,'USD','2025-11-25',1,NULL,NULL,'cheque','1254','','','2026-11-22',NULL),
(20256,1,10041,3400,'USD','2024-02-10',1,NULL,NULL,'cheque','1255','','','2026-11-22',NULL),
(20257,1,10008,4100,'USD','2019-01-27',1,NULL,NULL,'cheque','1256','','','2026-11-22',NULL),
(20258,1,10018,22300,'USD','2026-03-29',1,NULL,NULL,'cheque','1257','','','2026-11-22',NULL),
(20259,1,10015,29200,'USD','2022-08-13',1,NULL,NULL,'cheque','1258','','','2026-11-22',NULL),
(20260,1,10018,46000,'USD','2022-10-07',1,NULL,NULL,'cheque','1259','','','2026-11-22',NULL),
(20261,1,10001,16300,'USD','2026-01-15',1,NULL,NULL,'cheque','1260','','','2026-11-22',NULL),
(20262,1,10043,38100,'USD','2023-03-29',1,NULL,NULL,'cheque','1261','','','2026-11-22',NULL),
(20263,1,10018,32000,'USD','2025-05-01',1,NULL,NULL,'cheque','1262','','','2026-11-22',NULL),
(20264,1,10006,43700,'USD','2021-09-28',1,NULL,NULL,'cheque','1263','','','2026-11-22',NULL),
(20265,1,10034,25700,'USD','2021-10-12',1,NULL,NULL,'cheque','1264','','','2026-11-22',NULL),
(20266,1,10014,10000,'USD','2021-01-13',1,NULL,NULL,'cheque','1265','','','2026-11-22',NULL),
(20267,1,10001,8600,'USD','2023-12-22',1,NULL,NULL,'cheque','1266','','','2026-11-22',NULL),
(20268,1,10001,34700,'USD','2024-05-26',1,NULL,NULL,'cheque','1267','','','2026-11-22',NULL),
(20269,1,10031,15600,'USD','2023-08-24',1,NULL,NULL,'cheque','1268','','','2026-11-22',NULL),
(20270,1,10004,49600,'USD','2023-04-23',1,NULL,NULL,'cheque','1269','','','2026-11-22',NULL),
(20271,1,10041,3600,'USD','2021-07-10',1,NULL,NULL,'cheque','1270','','','2026-11-22',NULL),
(20272,1,10002,29000,'USD','2022-10-08',1,NULL,NULL,'cheque','1271','','','2026-11-22',NULL),
(20273,1,10039,16400,'USD','2021-09-17',1,NULL,NULL,'cheque','1272','','','2026-11-22',NULL),
(20274,1,10035,19900,'USD','2024-09-22',1,NULL,NULL,'cheque','1273','','','2026-11-22',NULL),
(20275,1,10012,30900,'USD','2023-03-06',1,NULL,NULL,'cheque','1274','','','2026-11-22',NULL),
(20276,1,10003,18400,'USD','2019-03-28',1,NULL,NULL,'cheque','1275','','','2026-11-22',NULL),
(20277,1,10001,22500,'USD','2026-02-10',1,NULL,NULL,'cheque','1276','','','2026-11-22',NULL),
(20278,1,10040,39900,'USD','2022-02-08',1,NULL,NULL,'cheque','1277','','','2026-11-22',NULL),
(20279,1,10009,28600,'USD','2026-11-01',1,NULL,NULL,'cheque','1278','','','2026-11-22',NULL),
(20280,1,10032,16600,'USD','2026-03-19',1,NULL,NULL,'cheque','1279','','','2026-11-22',NULL),
(20281,1,10022,31000,'USD','2025-07-26',1,NULL,NULL,'cheque','1280','','','2026-11-22',NULL),
(20282,1,10049,47400,'USD','2024-06-02',1,NULL,NULL,'cheque','1281','','','2026-11-22',NULL),
(20283,1,10006,22200,'USD','2025-12-22',1,NULL,NULL,'cheque','1282','','','2026-11-22',NULL),
(20284,1,10001,15300,'USD','2020-08-31',1,NULL,NULL,'cheque','1283','','','2026-11-22',NULL),
(20285,1,10007,7200,'USD','2019-12-08',1,NULL,NULL,'cheque','1284','','','2026-11-22',NULL),
(20286,1,10014,47400,'USD','2019-06-27',1,NULL,NULL,'cheque','1285','','','2026-11-22',NULL),
(20287,1,10002,41900,'USD','2023-10-15',1,NULL,NULL,'cheque','1286','','','2026-11-22',NULL),
(20288,1,10027,47900,'USD','2026-05-19',1,NULL,NULL,'cheque','1287','','','2026-11-22',NULL),
(20289,1,10001,17700,'USD','2021-08-31',1,NULL,NULL,'cheque','1288','','','2026-11-22',NULL),
(20290,1,10021,32900,'USD','2024-05-25',1,NULL,NULL,'cheque','1289','','','2026-11-22',NULL),
(20291,1,10032,31600,'USD','2022-12-19',1,NULL,NULL,'cheque','1290','','','2026-11-22',NULL),
(20292,1,10011,21300,'USD','2026-04-22',1,NULL,NULL,'cheque','1291','','','2026-11-22',NULL),
(20293,1,10001,14600,'USD','2025-08-08',1,NULL,NULL,'cheque','1292','','','2026-11-22',NULL),
(20294,1,10021,8900,'USD','2019-03-14',1,NULL,NULL,'cheque','1293','','','2026-11-22',NULL),
(20295,1,10047,34500,'USD','2026-01-01',1,NULL,NULL,'cheque','1294','','','2026-11-22',NULL),
(20296,1,10033,24800,'USD','2019-04-20',1,NULL,NULL,'cheque','1295','','','2026-11-22',NULL),
(20297,1,10001,24300,'USD','2025-11-17',1,NULL,NULL,'cheque','1296','','','2026-11-22',NULL),
(20298,1,10003,38900,'USD','2019-11-09',1,NULL,NULL,'cheque','1297','','','2026-11-22',NULL),
(20299,1,10047,34900,'USD','2024-09-23',1,NULL,NULL,'cheque','1298','','','2026-11-22',NULL),
(20300,1,10001,43600,'USD','2020-06-12',1,NULL,NULL,'cheque','1299','','','2026-11-22',NULL),
(20301,1,10017,33000,'USD','2021-05-05',1,NULL,NULL,'cheque','1300','','','2026-11-22',NULL),
(20302,1,10018,11600,'USD','2025-10-25',1,NULL,NULL,'cheque','1301','','','2026-11-22',NULL),
(20303,1,10040,8600,'USD','2026-08-13',1,NULL,NULL,'cheque','1302','','','2026-11-22',NULL),
(20304,1,10028,40700,'USD','2021-06-05',1,NULL,NULL,'cheque','1303','','','2026-11-22',NULL),
(20305,1,10022,21500,'USD','2026-01-15',1,NULL,NULL,'cheque','1304','','','2026-11-22',NULL),
(20306,1,10012,41600,'USD','2021-01-27',1,NULL,NULL,'cheque','1305','','','2026-11-22',NULL),
(20307,1,10008,45800,'USD','2022-10-26',1,NULL,NULL,'cheque','1306','','','2026-11-22',NULL),
(20308,1,10003,31200,'USD','2018-12-17',1,NULL,NULL,'cheque','1307','','','2026-11-22',NULL),
(20309,1,10008,19800,'USD','2023-03-20',1,NULL,NULL,'cheque','1308','','','2026-11-22',NULL),
(20310,1,10004,40200,'USD','2018-12-29',1,NULL,NULL,'cheque','1309','','','2026-11-22',NULL),
(20311,1,10013,6700,'USD','2019-11-06',1,NULL,NULL,'cheque','1310','','','2026-11-22',NULL),
(20312,1,10047,37900,'USD','2021-11-21',1,NULL,NULL,'cheque','1311','','','2026-11-22',NULL),
(20313,1,10013,49400,'USD','2021-03-28',1,NULL,NULL,'cheque','1312','','','2026-11-22',NULL),
(20314,1,10019,36100,'USD','2025-04-28',1,NULL,NULL,'cheque','1313','','','2026-11-22',NULL),
(20315,1,10033,48200,'USD','2025-07-07',1,NULL,NULL,'cheque','1314','','','2026-11-22',NULL),
(20316,1,10019,27500,'USD','2022-04-05',1,NULL,NULL,'cheque','1315','','','2026-11-22',NULL),
(20317,1,10002,45300,'USD','2020-02-04',1,NULL,NULL,'cheque','1316','','','2026-11-22',NULL),
(20318,1,10042,36200,'USD','2020-02-07',1,NULL,NULL,'cheque','1317','','','2026-11-22',NULL),
(20319,1,10001,37700,'USD','2021-07-28',1,NULL,NULL,'cheque','1318','','','2026-11-22',NULL),
(20320,1,10011,1600,'USD','2023-03-11',1,NULL,NULL,'cheque','1319','','','2026-11-22',NULL),
(20321,1,10007,16300,'USD','2020-04-25',1,NULL,NULL,'cheque','1320','','','2026-11-22',NULL),
(20322,1,10038,6200,'USD','2020-06-04',1,NULL,NULL,'cheque','1321','','','2026-11-22',NULL),
(20323,1,10004,35300,'USD','2024-05-11',1,NULL,NULL,'cheque','1322','','','2026-11-22',NULL),
(20324,1,10004,20900,'USD','2022-09-18',1,NULL,NULL,'cheque','1323','','','2026-11-22',NULL),
(20325,1,10030,2000,'USD','2020-12-15',1,NULL,NULL,'cheque','1324','','','2026-11-22',NULL),
(20326,1,10007,49500,'USD','2025-07-25',1,NULL,NULL,'cheque','1325','','','2026-11-22',NULL),
(20327,1,10014,30000,'USD','2025-06-23',1,NULL,NULL,'cheque','1326','','','2026-11-22',NULL),
(20328,1,10012,900,'USD','2021-09-08',1,NULL,NULL,'cheque','1327','','','2026-11-22',NULL),
(20329,1,10011,41500,'USD','2026-11-19',1,NULL,NULL,'cheque','1328','','','2026-11-22',NULL),
(20330,1,10029,43400,'USD','2021-07-15',1,NULL,NULL,'cheque','1329','','','2026-11-22',NULL),
(20331,1,10001,16300,'USD','2025-06-22',1,NULL,NULL,'cheque','1330','','','2026-11-22',NULL),
(20332,1,10025,46200,'USD','2021-07-21',1,NULL,NULL,'cheque','1331','','','2026-11-22',NULL),
(20333,1,10019,5800,'USD','2026-06-10',1,NULL,NULL,'cheque','1332','','','2026-11-22',NULL),
(20334,1,10021,46000,'USD','2019-04-11',1,NULL,NULL,'cheque','1333','','','2026-11-22',NULL),
(20335,1,10041,47100,'USD','2024-02-25',1,NULL,NULL,'cheque','1334','','','2026-11-22',NULL),
(20336,1,10006,7200,'USD','2025-01-11',1,NULL,NULL,'cheque','1335','','','2026-11-22',NULL),
(20337,1,10045,18500,'USD','2024-04-02',1,NULL,NULL,'cheque','1336','','','2026-11-22',NULL),
(20338,1,10019,28700,'USD','2019-04-28',1,NULL,NULL,'cheque','1337','','','2026-11-22',NULL),
(20339,1,10004,49500,'USD','2024-01-09',1,NULL,NULL,'cheque','1338','','','2026-11-22',NULL),
(20340,1,10005,40900,'USD','2020-04-14',1,NULL,NULL,'cheque','1339','','','2026-11-22',NULL),
(20341,1,10005,22300,'USD','2020-08-25',1,NULL,NULL,'cheque','1340','','','2026-11-22',NULL),
(20342,1,10027,45000,'USD','2021-02-21',1,NULL,NULL,'cheque','1341','','','2026-11-22',NULL),
(20343,1,10044,3300,'USD','2021-08-29',1,NULL,NULL,'cheque','1342','','','2026-11-22',NULL),
(20344,1,10022,45000,'USD','2024-11-24',1,NULL,NULL,'cheque','1343','','','2026-11-22',NULL),
(20345,1,10015,10400,'USD','2022-05-30',1,NULL,NULL,'cheque','1344','','','2026-11-22',NULL),
(20346,1,10011,31600,'USD','2020-02-13',1,NULL,NULL,'cheque','1345','','','2026-11-22',NULL),
(20347,1,10046,7500,'USD','2020-07-21',1,NULL,NULL,'cheque','1346','','','2026-11-22',NULL),
(20348,1,10002,31500,'USD','2026-04-11',1,NULL,NULL,'cheque','1347','','','2026-11-22',NULL),
(20349,1,10006,45200,'USD','2024-12-03',1,NULL,NULL,'cheque','1348','','','2026-11-22',NULL),
(20350,1,10020,31800,'USD','2024-04-22',1,NULL,NULL,'cheque','1349','','','2026-11-22',NULL),
(20351,1,10005,31500,'USD','2020-09-08',1,NULL,NULL,'cheque','1350','','','2026-11-22',NULL),
(20352,1,10008,23000,'USD','2020-07-05',1,NULL,NULL,'cheque','1351','','','2026-11-22',NULL),
(20353,1,10039,22200,'USD','2020-09-03',1,NULL,NULL,'cheque','1352','','','2026-11-22',NULL),
(20354,1,10044,13000,'USD','2026-09-01',1,NULL,NULL,'cheque','1353','','','2026-11-22',NULL),
(20355,1,10033,21100,'USD','2023-05-16',1,NULL,NULL,'cheque','1354','','','2026-11-22',NULL),
(20356,1,10023,28500,'USD','2025-07-29',1,NULL,NULL,'cheque','1355','','','2026-11-22',NULL),
(20357,1,10020,38900,'USD','2023-02-07',1,NULL,NULL,'cheque','1356','','','2026-11-22',NULL),
(20358,1,10034,25800,'USD','2021-08-27',1,NULL,NULL,'cheque','1357','','','2026-11-22',NULL),
(20359,1,10019,12800,'USD','2024-12-20',1,NULL,NULL,'cheque','1358','','','2026-11-22',NULL),
(20360,1,10004,10200,'USD','2022-11-18',1,NULL,NULL,'cheque','1359','','','2026-11-22',NULL),
(20361,1,10035,32100,'USD','2024-08-05',1,NULL,NULL,'cheque','1360','','','2026-11-22',NULL),
(20362,1,10028,39600,'USD','2026-05-30',1,NULL,NULL,'cheque','1361','','','2026-11-22',NULL),
(20363,1,10003,31400,'USD','2020-04-16',1,NULL,NULL,'cheque','1362','','','2026-11-22',NULL),
(20364,1,10002,22100,'USD','2021-06-19',1,NULL,NULL,'cheque','1363','','','2026-11-22',NULL),
(20365,1,10047,3700,'USD','2023-02-23',1,NULL,NULL,'cheque','1364','','','2026-11-22',NULL),
(20366,1,10026,6900,'USD','2022-02-27',1,NULL,NULL,'cheque','1365','','','2026-11-22',NULL),
(20367,1,10013,22300,'USD','2019-08-27',1,NULL,NULL,'cheque','1366','','','2026-11-22',NULL),
(20368,1,10010,35600,'USD','2020-06-17',1,NULL,NULL,'cheque','1367','','','2026-11-22',NULL),
(20369,1,10034,39800,'USD','2019-09-29',1,NULL,NULL,'cheque','1368','','','2026-11-22',NULL),
(20370,1,10016,49400,'USD','2019-01-06',1,NULL,NULL,'cheque','1369','','','2026-11-22',NULL),
(20371,1,10005,29800,'USD','2025-12-25',1,NULL,NULL,'cheque','1370','','','2026-11-22',NULL),
(20372,1,10005,35300,'USD','2024-04-26',1,NULL,NULL,'cheque','1371','','','2026-11-22',NULL),
(20373,1,10033,6600,'USD','2026-08-01',1,NULL,NULL,'cheque','1372','','','2026-11-22',NULL),
(20374,1,10014,43100,'USD','2026-06-05',1,NULL,NULL,'cheque','1373','','','2026-11-22',NULL),
(20375,1,10029,18000,'USD','2023-02-12',1,NULL,NULL,'cheque','1374','','','2026-11-22',NULL),
(20376,1,10006,45400,'USD','2023-05-01',1,NULL,NULL,'cheque','1375','','','2026-11-22',NULL),
(20377,1,10015,7400,'USD','2022-10-15',1,NULL,NULL,'cheque','1376','','','2026-11-22',NULL),
(20378,1,10033,43600,'USD','2025-03-01',1,NULL,NULL,'cheque','1377','','','2026-11-22',NULL),
(20379,1,10024,36300,'USD','2024-12-27',1,NULL,NULL,'cheque','1378','','','2026-11-22',NULL),
(20380,1,10001,22500,'USD','2021-11-11',1,NULL,NULL,'cheque','1379','','','2026-11-22',NULL),
(20381,1,10029,2600,'USD','2022-10-08',1,NULL,NULL,'cheque','1380','','','2026-11-22',NULL),
(20382,1,10029,31600,'USD','2025-07-22',1,NULL,NULL,'cheque','1381','','','2026-11-22',NULL),
(20383,1,10007,33400,'USD','2024-12-24',1,NULL,NULL,'cheque','1382','','','2026-11-22',NULL),
(20384,1,10021,22900,'USD','2024-04-16',1,NULL,NULL,'cheque','1383','','','2026-11-22',NULL),
(20385,1,10002,5400,'USD','2019-07-30',1,NULL,NULL,'cheque','1384','','','2026-11-22',NULL),
(20386,1,10009,18700,'USD','2025-03-04',1,NULL,NULL,'cheque','1385','','','2026-11-22',NULL),
(20387,1,10001,28000,'USD','2023-09-26',1,NULL,NULL,'cheque','1386','','','2026-11-22',NULL),
(20388,1,10024,33200,'USD','2020-08-19',1,NULL,NULL,'cheque','1387','','','2026-11-22',NULL),
(20389,1,10032,3600,'USD','2025-08-20',1,NULL,NULL,'cheque','1388','','','2026-11-22',NULL),
(20390,1,10012,9300,'USD','2025-08-28',1,NULL,NULL,'cheque','1389','','','2026-11-22',NULL),
(20391,1,10002,30500,'USD','2025-12-13',1,NULL,NULL,'cheque','1390','','','2026-11-22',NULL),
(20392,1,10003,9700,'USD','2024-09-06',1,NULL,NULL,'cheque','1391','','','2026-11-22',NULL),
(20393,1,10012,19700,'USD','2025-03-17',1,NULL,NULL,'cheque','1392','','','2026-11-22',NULL),
(20394,1,10036,19700,'USD','2022-10-17',1,NULL,NULL,'cheque','1393','','','2026-11-22',NULL),
(20395,1,10007,31000,'USD','2019-06-09',1,NULL,NULL,'cheque','1394','','','2026-11-22',NULL),
(20396,1,10046,45000,'USD','2019-02-26',1,NULL,NULL,'cheque','1395','','','2026-11-22',NULL),
(20397,1,10013,17300,'USD','2020-06-07',1,NULL,NULL,'cheque','1396','','','2026-11-22',NULL),
(20398,1,10009,3200,'USD','2019-05-04',1,NULL,NULL,'cheque','1397','','','2026-11-22',NULL),
(20399,1,10029,6300,'USD','2023-11-13',1,NULL,NULL,'cheque','1398','','','2026-11-22',NULL),
(20400,1,10001,38000,'USD','2023-07-10',1,NULL,NULL,'cheque','1399','','','2026-11-22',NULL);
/*!40000 ALTER TABLE `gift` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `intake`
--

DROP TABLE IF EXISTS `intake`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `intake` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `version` int(10) unsigned NOT NULL DEFAULT 1,
  `name` varchar(190) NOT NULL,
  `at` datetime(3) NOT NULL,
  `actor` varchar(120) NOT NULL,
  `state` varchar(12) NOT NULL,
  `encoding` varchar(40) NOT NULL,
  `separator_char` char(1) NOT NULL,
  `headings` mediumtext NOT NULL,
  `row_total` int(11) NOT NULL,
  `setting` text NOT NULL,
  PRIMARY KEY (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `intake`
--

LOCK TABLES `intake` WRITE;
/*!40000 ALTER TABLE `intake` DISABLE KEYS */;
/*!40000 ALTER TABLE `intake` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `intake_row`
--

DROP TABLE IF EXISTS `intake_row`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `intake_row` (
  `intake_id` int(10) unsigned NOT NULL,
  `row_no` int(11) NOT NULL,
  `cells` mediumtext NOT NULL,
  PRIMARY KEY (`intake_id`,`row_no`),
  CONSTRAINT `intake_row_ibfk_1` FOREIGN KEY (`intake_id`) REFERENCES `intake` (`id`) ON DELETE CASCADE
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `intake_row`
--

LOCK TABLES `intake_row` WRITE;
/*!40000 ALTER TABLE `intake_row` DISABLE KEYS */;
/*!40000 ALTER TABLE `intake_row` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `issue_run`
--

DROP TABLE IF EXISTS `issue_run`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `issue_run` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `version` int(10) unsigned NOT NULL DEFAULT 1,
  `letter_id` int(10) unsigned NOT NULL,
  `at` datetime(3) NOT NULL,
  `actor` varchar(120) NOT NULL,
  PRIMARY KEY (`id`),
  KEY `letter_id` (`letter_id`),
  CONSTRAINT `issue_run_ibfk_1` FOREIGN KEY (`letter_id`) REFERENCES `letter` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `issue_run`
--

LOCK TABLES `issue_run` WRITE;
/*!40000 ALTER TABLE `issue_run` DISABLE KEYS */;
/*!40000 ALTER TABLE `issue_run` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `job`
--

DROP TABLE IF EXISTS `job`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `job` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `kind` varchar(40) NOT NULL,
  `title` varchar(200) NOT NULL,
  `payload` mediumtext NOT NULL,
  `state` varchar(12) NOT NULL,
  `done` int(11) NOT NULL DEFAULT 0,
  `total` int(11) NOT NULL DEFAULT 0,
  `message` varchar(500) NOT NULL DEFAULT '',
  `link` varchar(200) DEFAULT NULL,
  `attempts` int(11) NOT NULL DEFAULT 0,
  `run_after` datetime(3) NOT NULL,
  `heartbeat_at` datetime(3) DEFAULT NULL,
  `worker` varchar(60) DEFAULT NULL,
  `cancel_asked` tinyint(4) NOT NULL DEFAULT 0,
  `created_by` int(10) unsigned DEFAULT NULL,
  `actor` varchar(120) NOT NULL,
  `created_at` datetime(3) NOT NULL,
  `finished_at` datetime(3) DEFAULT NULL,
  `tick` bigint(20) NOT NULL DEFAULT 0,
  PRIMARY KEY (`id`),
  KEY `job_next` (`state`,`run_after`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `job`
--

LOCK TABLES `job` WRITE;
/*!40000 ALTER TABLE `job` DISABLE KEYS */;
/*!40000 ALTER TABLE `job` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `letter`
--

DROP TABLE IF EXISTS `letter`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `letter` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `version` int(10) unsigned NOT NULL DEFAULT 1,
  `name` varchar(120) NOT NULL,
  `subject` varchar(200) NOT NULL,
  `body` mediumtext NOT NULL,
  PRIMARY KEY (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=2 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `letter`
--

LOCK TABLES `letter` WRITE;
/*!40000 ALTER TABLE `letter` DISABLE KEYS */;
INSERT INTO `letter` VALUES
(1,1,'Thank you with receipt','Thank you for your gift to {organization}','{\"type\":\"doc\",\"content\":[{\"type\":\"paragraph\",\"content\":[{\"type\":\"text\",\"text\":\"Dear \"},{\"type\":\"mergeField\",\"attrs\":{\"field\":\"salutation\",\"fallback\":\"friend\"}},{\"type\":\"text\",\"text\":\",\"}]},{\"type\":\"paragraph\",\"content\":[{\"type\":\"text\",\"text\":\"Thank you for your gift of \"},{\"type\":\"mergeField\",\"attrs\":{\"field\":\"giftAmount\",\"fallback\":\"\"}},{\"type\":\"text\",\"text\":\" on \"},{\"type\":\"mergeField\",\"attrs\":{\"field\":\"giftDate\",\"fallback\":\"\"}},{\"type\":\"text\",\"text\":\" to \"},{\"type\":\"mergeField\",\"attrs\":{\"field\":\"fund\",\"fallback\":\"\"}},{\"type\":\"text\",\"text\":\". Because of you the basin stays dark enough to read by starlight.\"}]},{\"type\":\"paragraph\",\"content\":[{\"type\":\"text\",\"text\":\"This year the telescope van has stopped at thirty-one schools, and every one of those evenings was paid for by people like you.\"}]},{\"type\":\"paragraph\",\"content\":[{\"type\":\"text\",\"text\":\"With clear skies,\"}]},{\"type\":\"paragraph\",\"content\":[{\"type\":\"text\",\"text\":\"The Conservancy at Tansy Creek\"}]}]}');
/*!40000 ALTER TABLE `letter` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `mailing`
--

DROP TABLE IF EXISTS `mailing`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `mailing` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `version` int(10) unsigned NOT NULL DEFAULT 1,
  `name` varchar(120) NOT NULL,
  `subject` varchar(200) NOT NULL,
  `body` mediumtext NOT NULL,
  `segment_id` int(10) unsigned DEFAULT NULL,
  `appeal_id` int(10) unsigned DEFAULT NULL,
  `state` varchar(12) NOT NULL,
  PRIMARY KEY (`id`),
  KEY `segment_id` (`segment_id`),
  KEY `appeal_id` (`appeal_id`),
  CONSTRAINT `mailing_ibfk_1` FOREIGN KEY (`segment_id`) REFERENCES `segment` (`id`),
  CONSTRAINT `mailing_ibfk_2` FOREIGN KEY (`appeal_id`) REFERENCES `appeal` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `mailing`
--

LOCK TABLES `mailing` WRITE;
/*!40000 ALTER TABLE `mailing` DISABLE KEYS */;
/*!40000 ALTER TABLE `mailing` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `migration`
--

DROP TABLE IF EXISTS `migration`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `migration` (
  `id` int(11) NOT NULL AUTO_INCREMENT,
  `timestamp` bigint(20) NOT NULL,
  `name` varchar(255) NOT NULL,
  PRIMARY KEY (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=2 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `migration`
--

LOCK TABLES `migration` WRITE;
/*!40000 ALTER TABLE `migration` DISABLE KEYS */;
INSERT INTO `migration` VALUES
(1,1790000000000,'First1790000000000');
/*!40000 ALTER TABLE `migration` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `organization`
--

DROP TABLE IF EXISTS `organization`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `organization` (
  `id` tinyint(4) NOT NULL,
  `name` varchar(120) NOT NULL,
  `town` varchar(120) NOT NULL,
  `tax_id` varchar(30) NOT NULL,
  `currency` char(3) NOT NULL,
  `locale` varchar(20) NOT NULL,
  `time_zone` varchar(60) NOT NULL,
  `fiscal_year_start` tinyint(4) NOT NULL,
  `mail_from` varchar(190) NOT NULL,
  `secret` varchar(64) NOT NULL,
  PRIMARY KEY (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `organization`
--

LOCK TABLES `organization` WRITE;
/*!40000 ALTER TABLE `organization` DISABLE KEYS */;
INSERT INTO `organization` VALUES
(1,'Our organization','','','USD','en-US','America/New_York',1,'office@example.org','d1767c01b08c748cd9c3061e1dd7bec9475c6db70aba42fc0bdc4b07543f6f7c');
/*!40000 ALTER TABLE `organization` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `phone`
--

DROP TABLE IF EXISTS `phone`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `phone` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `version` int(10) unsigned NOT NULL DEFAULT 1,
  `supporter_id` int(10) unsigned NOT NULL,
  `number` varchar(40) NOT NULL,
  `label` varchar(40) NOT NULL,
  `preferred` tinyint(4) NOT NULL,
  PRIMARY KEY (`id`),
  KEY `phone_supporter` (`supporter_id`),
  CONSTRAINT `phone_ibfk_1` FOREIGN KEY (`supporter_id`) REFERENCES `supporter` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=28 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `phone`
--

LOCK TABLES `phone` WRITE;
/*!40000 ALTER TABLE `phone` DISABLE KEYS */;
INSERT INTO `phone` VALUES
(1,1,10004,'(775) 555-0180','home',1),
(2,1,10005,'(775) 555-0142','home',1),
(3,1,10006,'(775) 555-0199','home',1),
(4,1,10007,'(775) 555-0180','home',1),
(5,1,10008,'(775) 555-0153','home',1),
(6,1,10009,'(775) 555-0152','home',1),
(7,1,10011,'(775) 555-0129','home',1),
(8,1,10013,'(775) 555-0102','home',1),
(9,1,10015,'(775) 555-0141','home',1),
(10,1,10016,'(775) 555-0184','home',1),
(11,1,10017,'(775) 555-0148','home',1),
(12,1,10018,'(775) 555-0110','home',1),
(13,1,10021,'(775) 555-0132','home',1),
(14,1,10022,'(775) 555-0194','home',1),
(15,1,10023,'(775) 555-0140','home',1),
(16,1,10025,'(775) 555-0107','home',1),
(17,1,10027,'(775) 555-0127','home',1),
(18,1,10030,'(775) 555-0165','home',1),
(19,1,10033,'(775) 555-0186','home',1),
(20,1,10035,'(775) 555-0196','home',1),
(21,1,10036,'(775) 555-0153','home',1),
(22,1,10038,'(775) 555-0187','home',1),
(23,1,10039,'(775) 555-0141','home',1),
(24,1,10042,'(775) 555-0180','home',1),
(25,1,10043,'(775) 555-0139','home',1),
(26,1,10047,'(775) 555-0152','home',1),
(27,1,10048,'(775) 555-0127','home',1);
/*!40000 ALTER TABLE `phone` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `receipt`
--

DROP TABLE IF EXISTS `receipt`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `receipt` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `version` int(10) unsigned NOT NULL DEFAULT 1,
  `year` smallint(6) NOT NULL,
  `sequence` int(11) NOT NULL,
  `number` varchar(20) NOT NULL,
  `gift_id` int(10) unsigned NOT NULL,
  `supporter_id` int(10) unsigned NOT NULL,
  `issue_run_id` int(10) unsigned DEFAULT NULL,
  `issued_on` date NOT NULL,
  `content` mediumtext NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `number` (`number`),
  UNIQUE KEY `receipt_series_place` (`year`,`sequence`),
  UNIQUE KEY `receipt_gift` (`gift_id`),
  KEY `receipt_run` (`issue_run_id`),
  KEY `supporter_id` (`supporter_id`),
  CONSTRAINT `receipt_ibfk_1` FOREIGN KEY (`gift_id`) REFERENCES `gift` (`id`),
  CONSTRAINT `receipt_ibfk_2` FOREIGN KEY (`supporter_id`) REFERENCES `supporter` (`id`),
  CONSTRAINT `receipt_ibfk_3` FOREIGN KEY (`issue_run_id`) REFERENCES `issue_run` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `receipt`
--

LOCK TABLES `receipt` WRITE;
/*!40000 ALTER TABLE `receipt` DISABLE KEYS */;
/*!40000 ALTER TABLE `receipt` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `receipt_series`
--

DROP TABLE IF EXISTS `receipt_series`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `receipt_series` (
  `year` smallint(6) NOT NULL,
  `last` int(11) NOT NULL,
  PRIMARY KEY (`year`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `receipt_series`
--

LOCK TABLES `receipt_series` WRITE;
/*!40000 ALTER TABLE `receipt_series` DISABLE KEYS */;
/*!40000 ALTER TABLE `receipt_series` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `segment`
--

DROP TABLE IF EXISTS `segment`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `segment` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `version` int(10) unsigned NOT NULL DEFAULT 1,
  `name` varchar(120) NOT NULL,
  `conditions` text NOT NULL,
  PRIMARY KEY (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `segment`
--

LOCK TABLES `segment` WRITE;
/*!40000 ALTER TABLE `segment` DISABLE KEYS */;
/*!40000 ALTER TABLE `segment` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `session`
--

DROP TABLE IF EXISTS `session`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `session` (
  `token_hash` char(64) NOT NULL,
  `user_id` int(10) unsigned NOT NULL,
  `created_at` datetime(3) NOT NULL,
  `expires_at` datetime(3) NOT NULL,
  PRIMARY KEY (`token_hash`),
  KEY `user_id` (`user_id`),
  CONSTRAINT `session_ibfk_1` FOREIGN KEY (`user_id`) REFERENCES `user` (`id`) ON DELETE CASCADE
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `session`
--

LOCK TABLES `session` WRITE;
/*!40000 ALTER TABLE `session` DISABLE KEYS */;
/*!40000 ALTER TABLE `session` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `sign_in_failure`
--

DROP TABLE IF EXISTS `sign_in_failure`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `sign_in_failure` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `subject` varchar(190) NOT NULL,
  `at` datetime(3) NOT NULL,
  PRIMARY KEY (`id`),
  KEY `sign_in_failure_subject` (`subject`,`at`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `sign_in_failure`
--

LOCK TABLES `sign_in_failure` WRITE;
/*!40000 ALTER TABLE `sign_in_failure` DISABLE KEYS */;
/*!40000 ALTER TABLE `sign_in_failure` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `supporter`
--

DROP TABLE IF EXISTS `supporter`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `supporter` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `version` int(10) unsigned NOT NULL DEFAULT 1,
  `kind` varchar(12) NOT NULL,
  `prefix` varchar(30) NOT NULL DEFAULT '',
  `first` varchar(120) NOT NULL DEFAULT '',
  `middle` varchar(120) NOT NULL DEFAULT '',
  `last` varchar(120) NOT NULL DEFAULT '',
  `suffix` varchar(30) NOT NULL DEFAULT '',
  `organization` varchar(120) NOT NULL DEFAULT '',
  `sort_name` varchar(190) NOT NULL,
  `no_email` tinyint(4) NOT NULL DEFAULT 0,
  `deceased` tinyint(4) NOT NULL DEFAULT 0,
  `trashed` tinyint(4) NOT NULL DEFAULT 0,
  PRIMARY KEY (`id`),
  KEY `supporter_name` (`trashed`,`sort_name`,`id`),
  KEY `supporter_kind` (`trashed`,`kind`,`sort_name`,`id`)
) ENGINE=InnoDB AUTO_INCREMENT=10051 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `supporter`
--

LOCK TABLES `supporter` WRITE;
/*!40000 ALTER TABLE `supporter` DISABLE KEYS */;
INSERT INTO `supporter` VALUES
(10001,1,'person','','Quentin','','Ironside','III','','ironside quentin',0,0,0),
(10002,1,'person','','Verity','','Villanueva','','','villanueva verity',0,0,0),
(10003,1,'household','','','','','','The Hartsock Family','the hartsock family',0,0,0),
(10004,1,'person','','Renée','','Ibarra','','','ibarra renee',0,0,0),
(10005,1,'person','','Zoltán','','Petrakis','','','petrakis zoltan',0,0,0),
(10006,1,'person','','Augustin','M.','Saltmarsh','','','saltmarsh augustin m.',0,0,0),
(10007,1,'household','','','','','','The Yellowhorse Family','the yellowhorse family',0,0,0),
(10008,1,'person','','Jasper','','Zapata','','','zapata jasper',0,0,0),
(10009,1,'organization','','','','','','Yarrow Diner','yarrow diner',0,0,0),
(10010,1,'person','','Gideon','','Zelenko','','','zelenko gideon',0,0,0),
(10011,1,'person','','William','','Juarez','','','juarez william',0,0,0),
(10012,1,'organization','','','','','','Farrow Foundation','farrow foundation',0,0,0),
(10013,1,'household','','','','','','The Applegarth Family','the applegarth family',0,0,0),
(10014,1,'person','','Odalys','','Hartsock','','','hartsock odalys',0,0,0),
(10015,1,'person','Mrs.','Verity','','Pemberly','','','pemberly verity',0,0,0),
(10016,1,'person','','Callum','','Ibarra','','','ibarra callum',0,0,0),
(10017,1,'person','','Amos','','Nakagawa','','','nakagawa amos',0,0,0),
(10018,1,'organization','','','','','','Tindall Garage','tindall garage',0,0,0),
(10019,1,'household','','','','','','The Lindqvist Family','the lindqvist family',0,0,0),
(10020,1,'person','','Ezra','','Rookwood','','','rookwood ezra',0,0,0),
(10021,1,'person','','Arlo','','Galindo','','','galindo arlo',0,0,0),
(10022,1,'person','','Gideon','','Kettleworth','Jr.','','kettleworth gideon',0,0,0),
(10023,1,'person','','Ximena','','Osgood','','','osgood ximena',0,0,0),
(10024,1,'person','','FERN','','NORTHCOTT','','','northcott fern',0,0,0),
(10025,1,'person','','Renée','','Eklund','','','eklund renee',0,0,0),
(10026,1,'organization','','','','','','O\'Halloran Garage','ohalloran garage',1,0,0),
(10027,1,'person','','Gideon','','Fennimore','','','fennimore gideon',0,0,0),
(10028,1,'person','','Maeve','','Galindo','','','galindo maeve',0,0,0),
(10029,1,'person','','Augustin','','Tindall','','','tindall augustin',0,0,0),
(10030,1,'person','','Mateo','','Underhill','','','underhill mateo',0,0,0),
(10031,1,'household','','','','','','The Rookwood Family','the rookwood family',0,0,0),
(10032,1,'person','','Maeve','','Galindo','','','galindo maeve',0,0,0),
(10033,1,'household','','','','','','The Stavros Family','the stavros family',0,0,0),
(10034,1,'person','','Silas','','Whitcomb','','','whitcomb silas',0,0,0),
(10035,1,'person','','Rosalind','','Zelenko','','','zelenko rosalind',0,0,0),
(10036,1,'person','','Verity','','Lindqvist','','','lindqvist verity',0,0,0),
(10037,1,'person','','Patricia','Y.','Winterbourne','','','winterbourne patricia y.',0,0,0),
(10038,1,'person','','Consuelo','','Tindall','','','tindall consuelo',0,0,0),
(10039,1,'person','Dr.','Mateo','','Jorgensen','','','jorgensen mateo',0,0,0),
(10040,1,'person','','Paloma','','Fairweather','','','fairweather paloma',0,0,0),
(10041,1,'person','','Renée','','Fairweather','','','fairweather renee',0,0,0),
(10042,1,'person','','Arlo','','Usher','','','usher arlo',0,0,0),
(10043,1,'person','','Yara','','Okonkwo-Lind','','','okonkwo-lind yara',0,0,0),
(10044,1,'person','Prof.','Ximena','','Nakagawa','','','nakagawa ximena',0,0,0),
(10045,1,'organization','','','','','','Zelenko Outfitters','zelenko outfitters',0,0,0),
(10046,1,'person','','Hedda','','Vandersloot','','','vandersloot hedda',0,0,0),
(10047,1,'person','','Paloma','','Nakagawa','','','nakagawa paloma',0,0,0),
(10048,1,'person','','Gideon','','Fennimoer','','','fennimoer gideon',0,0,0),
(10049,1,'person','','Oren','','Lindqvist','','','lindqvist oren',0,0,0),
(10050,1,'person','','Farida','','Ibarra','','','ibarra farida',0,0,0);
/*!40000 ALTER TABLE `supporter` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `supporter_tag`
--

DROP TABLE IF EXISTS `supporter_tag`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `supporter_tag` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `version` int(10) unsigned NOT NULL DEFAULT 1,
  `supporter_id` int(10) unsigned NOT NULL,
  `tag_id` int(10) unsigned NOT NULL,
  `source` varchar(20) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `supporter_tag_pair` (`supporter_id`,`tag_id`),
  KEY `supporter_tag_tag` (`tag_id`),
  CONSTRAINT `supporter_tag_ibfk_1` FOREIGN KEY (`supporter_id`) REFERENCES `supporter` (`id`),
  CONSTRAINT `supporter_tag_ibfk_2` FOREIGN KEY (`tag_id`) REFERENCES `tag` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `supporter_tag`
--

LOCK TABLES `supporter_tag` WRITE;
/*!40000 ALTER TABLE `supporter_tag` DISABLE KEYS */;
/*!40000 ALTER TABLE `supporter_tag` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `tag`
--

DROP TABLE IF EXISTS `tag`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `tag` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `version` int(10) unsigned NOT NULL DEFAULT 1,
  `name` varchar(60) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `name` (`name`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `tag`
--

LOCK TABLES `tag` WRITE;
/*!40000 ALTER TABLE `tag` DISABLE KEYS */;
/*!40000 ALTER TABLE `tag` ENABLE KEYS */;
UNLOCK TABLES;

--
-- Table structure for table `user`
--

DROP TABLE IF EXISTS `user`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `user` (
  `id` int(10) unsigned NOT NULL AUTO_INCREMENT,
  `email` varchar(190) NOT NULL,
  `name` varchar(120) NOT NULL,
  `role` varchar(20) NOT NULL,
  `password_hash` varchar(200) NOT NULL,
  `active` tinyint(4) NOT NULL DEFAULT 1,
  PRIMARY KEY (`id`),
  UNIQUE KEY `email` (`email`)
) ENGINE=InnoDB AUTO_INCREMENT=2 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

--
-- Dumping data for table `user`
--

LOCK TABLES `user` WRITE;
/*!40000 ALTER TABLE `user` DISABLE KEYS */;
INSERT INTO `user` VALUES
(1,'bo@example.org','Bo Farrow','officer','$argon2id$v=19$m=19456,t=2,p=1$IXDwZ6a11bquWN2zt89t2w$bjplpWnnk4be9ikpUWzYvNBBhgOBoyotQyqkDxd+D9k',1);
/*!40000 ALTER TABLE `user` ENABLE KEYS */;
UNLOCK TABLES;
/*!40103 SET TIME_ZONE=@OLD_TIME_ZONE */;

/*!40101 SET SQL_MODE=@OLD_SQL_MODE */;
/*!40014 SET FOREIGN_KEY_CHECKS=@OLD_FOREIGN_KEY_CHECKS */;
/*!40014 SET UNIQUE_CHECKS=@OLD_UNIQUE_CHECKS */;
/*!40101 SET CHARACTER_SET_CLIENT=@OLD_CHARACTER_SET_CLIENT */;
/*!40101 SET CHARACTER_SET_RESULTS=@OLD_CHARACTER_SET_RESULTS */;
/*!40101 SET COLLATION_CONNECTION=@OLD_COLLATION_CONNECTION */;
/*!40111 SET SQL_NOTES=@OLD_SQL_NOTES */;

-- Dump completed on 2026-11-23  6:57:40
