/*M!999999\- enable the sandbox mode */ 

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
DROP TABLE IF EXISTS `asset_chunks`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `asset_chunks` (
  `hash` char(64) NOT NULL,
  `number` int(11) NOT NULL,
  `bytes` mediumblob NOT NULL,
  PRIMARY KEY (`hash`,`number`),
  CONSTRAINT `asset_chunks_ibfk_1` FOREIGN KEY (`hash`) REFERENCES `assets` (`hash`) ON DELETE CASCADE
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

LOCK TABLES `asset_chunks` WRITE;
/*!40000 ALTER TABLE `asset_chunks` DISABLE KEYS */;
INSERT INTO `asset_chunks` VALUES
('7766ad07ccf83666499b926b4efb8758c204ae09bab13bced90d848036affad2',0,0x54544D310300000001000000000000000000000000000000000080400000000000000000000000000000804000000000000000000100000002000000);
/*!40000 ALTER TABLE `asset_chunks` ENABLE KEYS */;
UNLOCK TABLES;
DROP TABLE IF EXISTS `assets`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `assets` (
  `hash` char(64) NOT NULL,
  `bytes` int(11) NOT NULL,
  `type` varchar(60) NOT NULL,
  `created_at` datetime(3) NOT NULL,
  PRIMARY KEY (`hash`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

LOCK TABLES `assets` WRITE;
/*!40000 ALTER TABLE `assets` DISABLE KEYS */;
INSERT INTO `assets` VALUES
('7766ad07ccf83666499b926b4efb8758c204ae09bab13bced90d848036affad2',60,'application/x-tidytrail-mesh','2026-11-26 03:50:29.869');
/*!40000 ALTER TABLE `assets` ENABLE KEYS */;
UNLOCK TABLES;
DROP TABLE IF EXISTS `levels`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `levels` (
  `id` varchar(40) NOT NULL,
  `name` varchar(200) NOT NULL,
  `revision` int(11) NOT NULL,
  `document` longtext NOT NULL,
  `created_at` datetime(3) NOT NULL,
  `changed_at` datetime(3) NOT NULL,
  `deleted_at` datetime(3) DEFAULT NULL,
  PRIMARY KEY (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

LOCK TABLES `levels` WRITE;
/*!40000 ALTER TABLE `levels` DISABLE KEYS */;
INSERT INTO `levels` VALUES
('lv_cc5htarzda','Ferry landing',3,'{\"format\":\"tidytrail-level\",\"version\":1,\"name\":\"Ferry landing\",\"note\":\"second change\",\"settings\":{\"extent\":{\"minX\":0,\"minY\":0,\"maxX\":120,\"maxY\":80},\"gridM\":1,\"snap\":true,\"cellM\":0.25,\"stepsPerSecond\":30,\"seed\":1,\"rehearseS\":240,\"drivesOn\":\"left\",\"waterLevelM\":null,\"limits\":{\"crossTrackM\":{\"remark\":0.5,\"fail\":2},\"stuckS\":{\"remark\":3,\"fail\":10},\"lateShare\":{\"remark\":0.25,\"fail\":1}}},\"ground\":{\"baseM\":0,\"heights\":null},\"solids\":{},\"meshes\":{\"ms_a\":{\"name\":\"Deck\",\"assetId\":\"7766ad07ccf83666499b926b4efb8758c204ae09bab13bced90d848036affad2\",\"at\":[1,2,0],\"turnRad\":0,\"scale\":1,\"walkable\":true,\"blocksSight\":true,\"note\":\"\",\"tags\":[],\"locked\":false,\"hidden\":false}},\"underlays\":{},\"covers\":{},\"reachAreas\":{},\"profiles\":{\"pf_warden\":{\"name\":\"Warden\",\"medium\":\"foot\",\"radiusM\":0.35,\"heightM\":1.9,\"stepM\":0.4,\"maxSlopeRad\":0.663,\"climbM\":0.6,\"dropM\":2,\"jumpM\":1.6,\"maxWaterDepthM\":0.3,\"draughtM\":0,\"minAltitudeM\":2,\"maxAltitudeM\":30,\"gaits\":{\"walk\":1.4,\"hurry\":2.2,\"run\":3.6},\"gait\":\"walk\",\"accelMps2\":2.5,\"turnRateRadps\":4,\"note\":\"\",\"tags\":[],\"locked\":false,\"hidden\":false}},\"passages\":{},\"waypoints\":{},\"links\":{},\"routes\":{},\"junctions\":{},\"markers\":{\"mk_bell\":{\"name\":\"Bell\",\"at\":[3,4,0],\"kind\":\"place\",\"note\":\"\",\"tags\":[],\"locked\":false,\"hidden\":false}},\"zones\":{},\"posts\":{},\"factions\":{},\"briefs\":{},\"spawners\":{},\"waivers\":{}}','2026-11-26 03:50:29.887','2026-11-26 03:50:29.913',NULL),
('lv_ft3sq5m6is','Taken off',1,'{\"format\":\"tidytrail-level\",\"version\":1,\"name\":\"Taken off\",\"note\":\"\",\"settings\":{\"extent\":{\"minX\":0,\"minY\":0,\"maxX\":120,\"maxY\":80},\"gridM\":1,\"snap\":true,\"cellM\":0.25,\"stepsPerSecond\":30,\"seed\":1,\"rehearseS\":240,\"drivesOn\":\"left\",\"waterLevelM\":null,\"limits\":{\"crossTrackM\":{\"remark\":0.5,\"fail\":2},\"stuckS\":{\"remark\":3,\"fail\":10},\"lateShare\":{\"remark\":0.25,\"fail\":1}}},\"ground\":{\"baseM\":0,\"heights\":null},\"solids\":{},\"meshes\":{},\"underlays\":{},\"covers\":{},\"reachAreas\":{},\"profiles\":{\"pf_warden\":{\"name\":\"Warden\",\"medium\":\"foot\",\"radiusM\":0.35,\"heightM\":1.9,\"stepM\":0.4,\"maxSlopeRad\":0.663,\"climbM\":0.6,\"dropM\":2,\"jumpM\":1.6,\"maxWaterDepthM\":0.3,\"draughtM\":0,\"minAltitudeM\":2,\"maxAltitudeM\":30,\"gaits\":{\"walk\":1.4,\"hurry\":2.2,\"run\":3.6},\"gait\":\"walk\",\"accelMps2\":2.5,\"turnRateRadps\":4,\"note\":\"\",\"tags\":[],\"locked\":false,\"hidden\":false}},\"passages\":{},\"waypoints\":{},\"links\":{},\"routes\":{},\"junctions\":{},\"markers\":{},\"zones\":{},\"posts\":{},\"factions\":{},\"briefs\":{},\"spawners\":{},\"waivers\":{}}','2026-11-26 03:50:29.923','2026-11-26 03:50:29.923','2026-11-26 03:50:29.928');
/*!40000 ALTER TABLE `levels` ENABLE KEYS */;
UNLOCK TABLES;
DROP TABLE IF EXISTS `migrations`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `migrations` (
  `name` varchar(255) NOT NULL,
  PRIMARY KEY (`name`),
  UNIQUE KEY `name` (`name`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb3 COLLATE=utf8mb3_unicode_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

LOCK TABLES `migrations` WRITE;
/*!40000 ALTER TABLE `migrations` DISABLE KEYS */;
INSERT INTO `migrations` VALUES
('0001-levels-and-revisions'),
('0002-assets');
/*!40000 ALTER TABLE `migrations` ENABLE KEYS */;
UNLOCK TABLES;
DROP TABLE IF EXISTS `revisions`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `revisions` (
  `level_id` varchar(40) NOT NULL,
  `revision` int(11) NOT NULL,
  `edit_id` varchar(64) DEFAULT NULL,
  `saved_at` datetime(3) NOT NULL,
  `patch` longtext NOT NULL,
  `inverse` longtext NOT NULL,
  `document` longtext DEFAULT NULL,
  PRIMARY KEY (`level_id`,`revision`),
  UNIQUE KEY `revisions_edit` (`level_id`,`edit_id`),
  CONSTRAINT `revisions_ibfk_1` FOREIGN KEY (`level_id`) REFERENCES `levels` (`id`) ON DELETE CASCADE
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

LOCK TABLES `revisions` WRITE;
/*!40000 ALTER TABLE `revisions` DISABLE KEYS */;
INSERT INTO `revisions` VALUES
('lv_cc5htarzda',1,NULL,'2026-11-26 03:50:29.887','[]','[]','{\"format\":\"tidytrail-level\",\"version\":1,\"name\":\"Ferry landing\",\"note\":\"\",\"settings\":{\"extent\":{\"minX\":0,\"minY\":0,\"maxX\":120,\"maxY\":80},\"gridM\":1,\"snap\":true,\"cellM\":0.25,\"stepsPerSecond\":30,\"seed\":1,\"rehearseS\":240,\"drivesOn\":\"left\",\"waterLevelM\":null,\"limits\":{\"crossTrackM\":{\"remark\":0.5,\"fail\":2},\"stuckS\":{\"remark\":3,\"fail\":10},\"lateShare\":{\"remark\":0.25,\"fail\":1}}},\"ground\":{\"baseM\":0,\"heights\":null},\"solids\":{},\"meshes\":{\"ms_a\":{\"name\":\"Deck\",\"assetId\":\"7766ad07ccf83666499b926b4efb8758c204ae09bab13bced90d848036affad2\",\"at\":[1,2,0],\"turnRad\":0,\"scale\":1,\"walkable\":true,\"blocksSight\":true,\"note\":\"\",\"tags\":[],\"locked\":false,\"hidden\":false}},\"underlays\":{},\"covers\":{},\"reachAreas\":{},\"profiles\":{\"pf_warden\":{\"name\":\"Warden\",\"medium\":\"foot\",\"radiusM\":0.35,\"heightM\":1.9,\"stepM\":0.4,\"maxSlopeRad\":0.663,\"climbM\":0.6,\"dropM\":2,\"jumpM\":1.6,\"maxWaterDepthM\":0.3,\"draughtM\":0,\"minAltitudeM\":2,\"maxAltitudeM\":30,\"gaits\":{\"walk\":1.4,\"hurry\":2.2,\"run\":3.6},\"gait\":\"walk\",\"accelMps2\":2.5,\"turnRateRadps\":4,\"note\":\"\",\"tags\":[],\"locked\":false,\"hidden\":false}},\"passages\":{},\"waypoints\":{},\"links\":{},\"routes\":{},\"junctions\":{},\"markers\":{},\"zones\":{},\"posts\":{},\"factions\":{},\"briefs\":{},\"spawners\":{},\"waivers\":{}}'),
('lv_cc5htarzda',2,'Edit-One-1234','2026-11-26 03:50:29.905','[{\"op\":\"add\",\"path\":\"/markers/mk_bell\",\"value\":{\"name\":\"Bell\",\"at\":[3,4,0],\"kind\":\"place\",\"note\":\"\",\"tags\":[],\"locked\":false,\"hidden\":false}}]','[{\"op\":\"remove\",\"path\":\"/markers/mk_bell\"}]',NULL),
('lv_cc5htarzda',3,'edit-two-1234','2026-11-26 03:50:29.913','[{\"op\":\"replace\",\"path\":\"/note\",\"value\":\"second change\"}]','[{\"op\":\"replace\",\"path\":\"/note\",\"value\":\"\"}]',NULL),
('lv_ft3sq5m6is',1,NULL,'2026-11-26 03:50:29.923','[]','[]','{\"format\":\"tidytrail-level\",\"version\":1,\"name\":\"Taken off\",\"note\":\"\",\"settings\":{\"extent\":{\"minX\":0,\"minY\":0,\"maxX\":120,\"maxY\":80},\"gridM\":1,\"snap\":true,\"cellM\":0.25,\"stepsPerSecond\":30,\"seed\":1,\"rehearseS\":240,\"drivesOn\":\"left\",\"waterLevelM\":null,\"limits\":{\"crossTrackM\":{\"remark\":0.5,\"fail\":2},\"stuckS\":{\"remark\":3,\"fail\":10},\"lateShare\":{\"remark\":0.25,\"fail\":1}}},\"ground\":{\"baseM\":0,\"heights\":null},\"solids\":{},\"meshes\":{},\"underlays\":{},\"covers\":{},\"reachAreas\":{},\"profiles\":{\"pf_warden\":{\"name\":\"Warden\",\"medium\":\"foot\",\"radiusM\":0.35,\"heightM\":1.9,\"stepM\":0.4,\"maxSlopeRad\":0.663,\"climbM\":0.6,\"dropM\":2,\"jumpM\":1.6,\"maxWaterDepthM\":0.3,\"draughtM\":0,\"minAltitudeM\":2,\"maxAltitudeM\":30,\"gaits\":{\"walk\":1.4,\"hurry\":2.2,\"run\":3.6},\"gait\":\"walk\",\"accelMps2\":2.5,\"turnRateRadps\":4,\"note\":\"\",\"tags\":[],\"locked\":false,\"hidden\":false}},\"passages\":{},\"waypoints\":{},\"links\":{},\"routes\":{},\"junctions\":{},\"markers\":{},\"zones\":{},\"posts\":{},\"factions\":{},\"briefs\":{},\"spawners\":{},\"waivers\":{}}');
/*!40000 ALTER TABLE `revisions` ENABLE KEYS */;
UNLOCK TABLES;
/*!40103 SET TIME_ZONE=@OLD_TIME_ZONE */;

/*!40101 SET SQL_MODE=@OLD_SQL_MODE */;
/*!40014 SET FOREIGN_KEY_CHECKS=@OLD_FOREIGN_KEY_CHECKS */;
/*!40014 SET UNIQUE_CHECKS=@OLD_UNIQUE_CHECKS */;
/*!40101 SET CHARACTER_SET_CLIENT=@OLD_CHARACTER_SET_CLIENT */;
/*!40101 SET CHARACTER_SET_RESULTS=@OLD_CHARACTER_SET_RESULTS */;
/*!40101 SET COLLATION_CONNECTION=@OLD_COLLATION_CONNECTION */;
/*!40111 SET SQL_NOTES=@OLD_SQL_NOTES */;

